import {
	type Channels,
	fileKindOf,
	fileKinds,
	nameParts,
	orderProblem,
	sourceKinds,
	type TextureFile,
	type TextureOrder,
	usualOrder,
} from '@eppu/core/handoff';
import { useStudio } from '../../studio/store.ts';
import { Check } from '../../ui/Check.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Dial } from '../../ui/Dial.tsx';
import { Bay } from './Frame.tsx';
import { Presets } from './Presets.tsx';
import { SizesChoice } from './SizesChoice.tsx';

const channelWords: Readonly<Record<Channels, string>> = {
	rgba: 'With alpha',
	rgb: 'Without',
	gray: 'Grey',
	indexed: 'Palette',
};

interface Ordered {
	readonly order: TextureOrder;
	readonly put: (order: TextureOrder) => void;
}

/** What pictures are of, by a preset or one by one. */
export function SourceBay({
	order,
	put,
	sheets,
	only,
	setOnly,
}: Ordered & {
	readonly sheets: number;
	readonly only: 'all' | 'one';
	readonly setOnly: (only: 'all' | 'one') => void;
}) {
	const change = (part: Partial<TextureOrder>): void => put({ ...order, ...part });
	return (
		<Bay title="Pictures of">
			<Presets order={order} choose={put} />
			<Choice
				label="Pictures of"
				value={order.of}
				options={sourceKinds.map(({ kind: each, words }) => [each, words] as const)}
				onChange={(of) =>
					change({
						of,
						// Several of a sheet need names of their own.
						pattern:
							of !== 'sheet' && !order.pattern.includes('{layer}')
								? '{sheet}/{layer}'
								: of === 'sheet' && order.pattern === '{sheet}/{layer}'
									? usualOrder.pattern
									: order.pattern,
					})
				}
			/>
			{sheets > 1 && (
				<Choice
					label="Sheets"
					value={only}
					options={[
						['all', 'All sheets'],
						['one', 'This sheet'],
					]}
					onChange={setOnly}
				/>
			)}
		</Bay>
	);
}

/** The kind of file, and what becomes of alpha. */
export function FileBay({ order, put }: Ordered) {
	const change = (part: Partial<TextureOrder>): void => put({ ...order, ...part });
	const front = useStudio((state) => state.desk.front);
	const kind = fileKindOf(order.file);
	const opaque = order.channels === 'rgb' || order.channels === 'gray';
	return (
		<Bay title="File" wide="w-[236px]">
			<Choice
				label="Kind of file"
				value={order.file}
				options={fileKinds.map(({ kind: each, words }) => [each, words] as const)}
				onChange={(file) => {
					const next = fileKindOf(file);
					const channels = next.channels.includes(order.channels) ? order.channels : (next.channels[0] as Channels);
					change({ file, channels, quality: next.lossy ? order.quality : null });
				}}
			/>
			<Choice
				label="Alpha"
				value={order.channels}
				options={kind.channels.map((each) => [each, channelWords[each]] as const)}
				onChange={(channels) => change({ channels })}
			/>
			{kind.lossy && (
				<Check
					label="Every texel as it is"
					value={order.quality === null}
					onChange={(exact) => change({ quality: exact ? null : 85 })}
				/>
			)}
			{order.quality !== null && (
				<Dial
					label="Quality"
					value={order.quality}
					least={1}
					most={100}
					usual={85}
					unit=""
					onChange={(quality) => change({ quality: Math.round(quality) })}
				/>
			)}
			{opaque ? (
				<Choice
					label="Under clear texels"
					value={order.ground}
					options={[
						['#808080', 'On grey'],
						['#000000', 'Black'],
						['#ffffff', 'White'],
						...(['#808080', '#000000', '#ffffff'].includes(front) ? [] : [[front, 'Front pot'] as const]),
						...(['#808080', '#000000', '#ffffff', front].includes(order.ground)
							? []
							: [[order.ground, order.ground] as const]),
					]}
					onChange={(ground) => change({ ground })}
				/>
			) : (
				<Check
					label="Colours times alpha"
					hint="Premultiplied: for programs that lay pictures without multiplying themselves"
					value={order.premultiplied}
					onChange={(premultiplied) => change({ premultiplied })}
				/>
			)}
		</Bay>
	);
}

/** Which sizes are written, and how far colour goes on beyond what is painted. */
export function SizeBay({ order, put }: Ordered) {
	const change = (part: Partial<TextureOrder>): void => put({ ...order, ...part });
	return (
		<Bay title="Sizes and bleed" wide="w-[236px]">
			<SizesChoice sizes={order.sizes} onChange={(sizes) => change({ sizes })} />
			<Choice
				label="Bleed"
				value={order.bleed === 'all' ? 'all' : order.bleed === 0 ? 'painted' : 'some'}
				options={[
					['painted', 'As painted'],
					['some', 'Bleed by'],
					['all', 'All filled'],
				]}
				onChange={(bleed) => change({ bleed: bleed === 'all' ? 'all' : bleed === 'some' ? 16 : 0 })}
			/>
			{typeof order.bleed === 'number' && order.bleed > 0 && (
				<Dial
					label="Texels"
					value={order.bleed}
					least={1}
					most={256}
					ratio
					usual={16}
					unit="tx"
					onChange={(bleed) => change({ bleed: Math.max(1, Math.round(bleed)) })}
				/>
			)}
		</Bay>
	);
}

/** Names by a pattern, with what the first file will be called. */
export function NameBay({ order, put, files }: Ordered & { readonly files: readonly TextureFile[] }) {
	const change = (part: Partial<TextureOrder>): void => put({ ...order, ...part });
	return (
		<Bay title="Names" wide="w-[216px]">
			<input
				aria-label="Names by a pattern"
				className="cut-small w-full border border-rule bg-sheet px-1.5 py-0.5"
				value={order.pattern}
				maxLength={200}
				spellCheck={false}
				title={Object.entries(nameParts)
					.map(([part, words]) => `{${part}} ${words}`)
					.join('\n')}
				onChange={(event) => change({ pattern: event.target.value })}
			/>
			<p className="truncate text-ash" title={files[0]?.path}>
				{files[0] ? `Such as ${files[0].path}` : (orderProblem(order) ?? '')}
			</p>
			<div className="flex flex-wrap gap-1">
				{Object.entries(nameParts).map(([part, words]) => (
					<button
						key={part}
						type="button"
						className="cut-small bg-bark px-1.5 leading-4 hover:bg-bark-deep"
						title={`Add ${words}`}
						onClick={() => change({ pattern: `${order.pattern}{${part}}` })}
					>{`{${part}}`}</button>
				))}
			</div>
		</Bay>
	);
}
