import { setTool } from '../actions/tools.ts';
import { keysOf } from '../input/keys.ts';
import { activeLayer, cellsShown, drawsTexels, paintsMask, useStudio } from '../studio/store.ts';
import { GuardOptions } from '../tools/guard.tsx';
import type { ToolKind } from '../tools/kind.ts';
import { toolOf, tools } from '../tools/list.ts';
import { Hint } from '../ui/Hint.tsx';

/** The tools whose buttons stand on such a sheet: what mixes colours has no place among texels, nor among cells. */
const buttons = (texels: boolean, grid: boolean): readonly ToolKind[] =>
	(tools as readonly ToolKind[]).filter(
		({ under, on }) =>
			under === undefined &&
			(on === undefined ||
				(on === 'grid' && grid) ||
				(on === 'pixels' && texels) ||
				(on === 'soft' && !texels && !grid)),
	);

/** What the chosen tool can be told beside the tip's dials. */
function ToolOptions({ tool }: { readonly tool: ToolKind }) {
	const guarded = useStudio((state) => state.desk.guard !== null);
	const Options = tool.Options ?? (guarded ? GuardOptions : null);
	return Options && <Options />;
}

export function ToolBay() {
	const name = useStudio((state) => state.tool);
	const layer = useStudio(activeLayer);
	const onMask = useStudio(paintsMask);
	const tool = toolOf(name);
	const on = layer ? `${tool.label} on ${onMask ? 'the mask of ' : ''}“${layer.name}”` : 'No layer chosen';
	return (
		<div className="min-w-0 border-r border-rule px-3 py-2">
			<div className="mb-1.5 flex h-[18px] items-center gap-2">
				<h2 className="bay-title min-w-0 flex-1 truncate">{layer ? (tool.title ?? on) : on}</h2>
				<ToolOptions tool={tool} />
			</div>
			<ToolButtons chosen={tool} />
		</div>
	);
}

export function ToolButtons({ chosen: now }: { readonly chosen: ToolKind }) {
	const texels = useStudio(drawsTexels);
	const grid = useStudio((state) => cellsShown(state) !== null);
	return (
		<div role="radiogroup" aria-label="Tools" className="grid grid-cols-9 gap-1">
			{buttons(texels, grid).map((each) => {
				const { Icon, label } = each;
				const chosen = each.name === now.name || each.name === now.under;
				return (
					<Hint key={each.name} text={each.hint} keys={keysWords(each)}>
						<button
							type="button"
							role="radio"
							aria-checked={chosen}
							aria-label={label}
							onClick={() => setTool(each.name)}
							className={`cut-small flex h-[46px] min-w-0 flex-col items-center justify-center gap-0.5 ${chosen ? 'bg-pine text-on-pine' : 'bg-bark hover:bg-bark-deep'}`}
						>
							<Icon size={18} />
							<span className="text-[10px] leading-3 tracking-tight">{label}</span>
						</button>
					</Hint>
				);
			})}
		</div>
	);
}

/** A tool's key as the artist has it now. */
function keysWords({ name, keys, held }: ToolKind): string | undefined {
	const own = keysOf({ id: name, keys });
	return own && held ? `${own} held` : own || undefined;
}
