import { EraserIcon } from '@phosphor-icons/react/dist/csr/Eraser';
import { EyedropperIcon } from '@phosphor-icons/react/dist/csr/Eyedropper';
import { PaintBrushIcon } from '@phosphor-icons/react/dist/csr/PaintBrush';
import { PaintBucketIcon } from '@phosphor-icons/react/dist/csr/PaintBucket';
import { setTool } from '../app/commands.ts';
import { activeLayer, type ToolName, useStudio } from '../studio/store.ts';
import { Hint } from '../ui/Hint.tsx';

const tools = [
	{ name: 'draw', label: 'Draw', keys: 'D', Icon: PaintBrushIcon, hint: 'Draw with the front pot' },
	{ name: 'wipe', label: 'Wipe', keys: 'W', Icon: EraserIcon, hint: 'Wipe paint off the layer' },
	{
		name: 'fill',
		label: 'Fill',
		keys: 'F',
		Icon: PaintBucketIcon,
		hint: 'Fill an island and its bleed, or a whole template sheet',
	},
	{
		name: 'sample',
		label: 'Sample',
		keys: 'A held',
		Icon: EyedropperIcon,
		hint: 'Take the colour that is seen into the front pot',
	},
] as const;

export function ToolBay() {
	const tool = useStudio((state) => state.tool);
	const layer = useStudio(activeLayer);
	return (
		<div className="border-r border-rule px-3.5 py-2.5">
			<h2 className="bay-title mb-2 truncate">
				{layer ? `${tools.find((each) => each.name === tool)?.label} on “${layer.name}”` : 'No layer chosen'}
			</h2>
			<div role="radiogroup" aria-label="Tools" className="flex gap-1.5">
				{tools.map(({ name, label, keys, Icon, hint }) => (
					<Hint key={name} text={hint} keys={keys}>
						<button
							type="button"
							role="radio"
							aria-checked={tool === name}
							onClick={() => setTool(name as ToolName)}
							className={`cut flex w-[58px] flex-col items-center gap-1 py-2 ${tool === name ? 'bg-pine text-on-pine' : 'bg-bark hover:bg-bark-deep'}`}
						>
							<Icon size={20} />
							<span className="text-[12px] leading-3">{label}</span>
						</button>
					</Hint>
				))}
			</div>
		</div>
	);
}
