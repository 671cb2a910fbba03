import { type BlendMode, blendKinds, modeWords } from '@eppu/core/composite';
import type { Layer } from '@eppu/core/document';
import type { LayerChangeOf } from '../actions/layers.ts';
import { Select } from '../ui/Select.tsx';

const kinds = blendKinds.map(([kind, modes]) => [kind, modes.map((mode) => [mode, modeWords(mode)] as const)] as const);

/** A blend mode chosen by its name, among those that do alike. */
export function ModeChoice({
	label,
	value,
	onChange,
}: {
	readonly label: string;
	readonly value: BlendMode;
	readonly onChange: (mode: BlendMode) => void;
}) {
	return <Select label={label} look="word" value={value} kinds={kinds} onChange={onChange} />;
}

/** How a layer blends: a group may also let its layers blend with what lies below it, one by one. */
export function BlendChoice({
	layer,
	change,
}: {
	readonly layer: Layer;
	readonly change: (what: LayerChangeOf) => void;
}) {
	const label = `Blend of ${layer.name}`;
	if (layer.kind !== 'group')
		return <ModeChoice label={label} value={layer.mode} onChange={(mode) => change({ mode })} />;
	return (
		<Select<BlendMode | 'through'>
			label={label}
			look="word"
			title="Through: its layers blend with what lies below the group; else it is blended as one picture"
			value={!layer.isolated && layer.mode === 'normal' ? 'through' : layer.mode}
			kinds={[['', [['through', 'Through']]], ...kinds]}
			onChange={(next) =>
				change(next === 'through' ? { mode: 'normal', isolated: false } : { mode: next, isolated: true })
			}
		/>
	);
}
