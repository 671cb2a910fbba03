import { eachLayer, type LightLayer, type Sheet } from '@eppu/core/document';
import { type LightPreset, lightPresets, type Rig } from '@eppu/core/light';
import { DotsThreeIcon } from '@phosphor-icons/react/dist/csr/DotsThree';
import { EyeIcon } from '@phosphor-icons/react/dist/csr/Eye';
import { EyeSlashIcon } from '@phosphor-icons/react/dist/csr/EyeSlash';
import { PlusIcon } from '@phosphor-icons/react/dist/csr/Plus';
import { useState } from 'react';
import type { LayerChangeOf } from '../../actions/layers.ts';
import { addLight, changeLight, fadeLight, lightsWith, makeUsualBase } from '../../actions/light.ts';
import { takeFromLibrary, useLibrary, useLibraryChange } from '../../server/library.ts';
import { ModeChoice } from '../../stack/BlendChoice.tsx';
import { modelHeld } from '../../studio/bakes.ts';
import { run, runAll } from '../../studio/say.ts';
import { useStudio } from '../../studio/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { Dial } from '../../ui/Dial.tsx';
import { Menu, type MenuItem } from '../../ui/Menu.tsx';
import { useGesture } from '../../ui/useGesture.ts';
import { Block, lightRow } from '../layout/Block.tsx';

const presetOf = (name: string): LightPreset => lightPresets.find((each) => each.name === name) as LightPreset;

/** A light without the bakes of the model that it was made on. */
const withoutBakes = (rig: Rig): Rig => ({
	...rig,
	occlusion: { ...rig.occlusion, bake: null },
	edges: { ...rig.edges, bake: null },
	hollows: { ...rig.hollows, bake: null },
});

/** The lights that ship, and the artist's own. */
function useLights(): readonly MenuItem[] {
	const own = useLibrary('light');
	return [
		...lightPresets.map((preset) => ({ label: preset.name, run: () => addLight(preset) })),
		...own.map((item, i) => ({
			label: item.name,
			apart: i === 0,
			run: () =>
				void takeFromLibrary<Rig>(item.id, (rig) => addLight({ name: item.name, mode: 'multiply', opacity: 1, rig })),
		})),
	];
}

/** The light layers of a sheet, topmost first: chosen, shown, blended, and held against what was before. */
export function LightList({
	sheet,
	chosen,
	choose,
	everywhere,
	setEverywhere,
}: {
	readonly sheet: Sheet;
	readonly chosen: string | null;
	readonly choose: (layer: LightLayer) => void;
	readonly everywhere: boolean;
	readonly setEverywhere: (on: boolean) => void;
}) {
	const lights = [...eachLayer(sheet.layers)].filter((layer): layer is LightLayer => layer.kind === 'light').reverse();
	const menu = useLights();
	const model = useStudio(modelHeld);
	return (
		<Block
			title="Light layers"
			action={
				<Menu label="Add light" items={menu}>
					<PlusIcon size={16} />
				</Menu>
			}
		>
			{lights.length === 0 && (
				<div className="grid gap-2">
					<p className="text-[12px] text-ash">
						Light lies on the paint as a layer: it stays changeable, and a brush goes over it afterwards.
					</p>
					<Button look="main" onClick={() => addLight(presetOf('Warm'))}>
						Light the model
					</Button>
				</div>
			)}
			<ul className="flex flex-col gap-1.5">
				{lights.map((layer) => (
					<LightRow
						key={layer.id}
						sheet={sheet}
						layer={layer}
						chosen={layer.id === chosen}
						choose={() => choose(layer)}
						everywhere={everywhere}
						setEverywhere={setEverywhere}
					/>
				))}
			</ul>
			{model && (
				<Button
					className="mt-2 w-full"
					title="A colour for each part, light, and edges picked out: a group at the bottom of each sheet, all of it changeable"
					onClick={makeUsualBase}
				>
					Make a base for the model
				</Button>
			)}
		</Block>
	);
}

function LightRow({
	sheet,
	layer,
	chosen,
	choose,
	everywhere,
	setEverywhere,
}: {
	readonly sheet: Sheet;
	readonly layer: LightLayer;
	readonly chosen: boolean;
	readonly choose: () => void;
	readonly everywhere: boolean;
	readonly setEverywhere: (on: boolean) => void;
}) {
	const gesture = useGesture();
	const [share, setShare] = useState(1);
	const { putJson } = useLibraryChange();
	const all = lightsWith(layer, true);
	const change = (what: LayerChangeOf, words: string, together?: string): void =>
		runAll(
			lightsWith(layer, everywhere).map((each) => ({
				do: 'layer.change' as const,
				sheet: each.sheet.id,
				layer: each.layer.id,
				change: what,
			})),
			words,
			together,
		);
	const fade = (next: number): void => {
		setShare(next);
		fadeLight(sheet, layer, next);
	};
	const items: readonly MenuItem[] = [
		{ label: 'Keep as my own…', run: () => putJson('light', layer.name, withoutBakes(layer.rig)) },
		...lightPresets.map((preset, i) => ({
			label: `As ${preset.name}`,
			apart: i === 0,
			run: () => changeLight(layer, preset.rig, everywhere),
		})),
		{
			label: 'Take away',
			danger: true,
			apart: true,
			run: () =>
				runAll(
					lightsWith(layer, everywhere).map((each) => ({
						do: 'layer.remove' as const,
						sheet: each.sheet.id,
						layer: each.layer.id,
					})),
					`Delete "${layer.name}"`,
				),
		},
	];
	return (
		<li className="relative" data-light={layer.name}>
			<div className={lightRow(chosen)}>
				<button type="button" aria-pressed={chosen} onClick={choose} className="block w-full pr-12 text-left">
					<span className={`block truncate font-semibold ${layer.shown ? '' : 'opacity-60'}`}>{layer.name}</span>
				</button>
				<div className="flex text-[12px] text-ash">
					<ModeChoice
						label={`Blend of ${layer.name}`}
						value={layer.mode}
						onChange={(mode) => change({ mode }, `Blend "${layer.name}"`)}
					/>
				</div>
				{chosen && (
					<div className="mt-1 flex flex-col gap-0.5 text-[12px]">
						<Dial
							wide
							label="Opacity"
							value={layer.opacity}
							least={0}
							most={1}
							usual={1}
							unit="%"
							onChange={(opacity) => change({ opacity }, `Opacity of "${layer.name}"`, gesture())}
						/>
						<Dial
							wide
							label="Before"
							value={1 - share}
							least={0}
							most={1}
							usual={0}
							unit="%"
							hint="Only to look: all to the right shows the paint as it was before this light"
							onChange={(next) => fade(1 - next)}
						/>
						{all.length > 1 && (
							<Check
								label={`Change it on all ${all.length} sheets`}
								hint="Light layers of the same name on the model’s other sheets change with it"
								value={everywhere}
								onChange={setEverywhere}
							/>
						)}
					</div>
				)}
			</div>
			<span className="absolute top-1.5 right-1.5 flex items-center">
				<button
					type="button"
					aria-label={`${layer.shown ? 'Hide' : 'Show'} ${layer.name}`}
					aria-pressed={layer.shown}
					className="cut-small p-1 hover:bg-bark"
					onClick={() => run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { shown: !layer.shown } })}
				>
					{layer.shown ? <EyeIcon size={15} /> : <EyeSlashIcon size={15} />}
				</button>
				<Menu label={`What to do with ${layer.name}`} items={items}>
					<DotsThreeIcon size={16} />
				</Menu>
			</span>
		</li>
	);
}
