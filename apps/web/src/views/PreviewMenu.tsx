import { pose, saveTurntable, turnAround } from '../actions/preview.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';
import { Popover } from '../ui/Popover.tsx';
import { previewLights } from './previewLight.ts';
import { overView } from './Toggles.tsx';
import { posesOf, useFigures } from './usePoses.ts';

/** How the model is looked at: lit or as the game shows it, at which time of day, on what ground, going round. */
export function PreviewMenu() {
	const show = useStudio((state) => state.show);
	const preview = useStudio((state) => state.preview);
	const turning = useStudio((state) => state.turning);
	const posing = useStudio((state) => state.posing);
	const poses = posesOf(useFigures());
	const before = useStudio((state) => state.beforeShown);
	const pixels = useStudio((state) => state.outline?.project.sheets.some(({ pixel }) => pixel));
	const saving = useStudio((state) => state.savingTurns);
	const set = (change: Partial<typeof preview>): void => useStudio.setState({ preview: { ...preview, ...change } });
	return (
		<Popover
			label="Preview"
			side="bottom"
			className={overView(show.lit || turning || posing !== null || before)}
			trigger="Preview"
		>
			<h3 className="bay-title mb-1.5">Light, only to look at</h3>
			<Choice
				label="Light of the preview"
				value={show.lit ? preview.time : 'none'}
				options={[['none', 'Unlit'], ...previewLights.map(({ name, words }) => [name, words] as const)]}
				onChange={(time) => {
					useStudio.setState({ show: { ...show, lit: time !== 'none' } });
					if (time !== 'none') set({ time });
				}}
			/>
			<p className="mt-1.5 text-[12px] text-ash">
				Unlit is what the game shows. Hold L over the model to carry the light round; hold Shift+V for values only.
			</p>
			<h3 className="bay-title mt-3 mb-1.5">Around it</h3>
			<div className="grid gap-1.5">
				<Check label="Ground under it" value={preview.ground} onChange={(ground) => set({ ground })} />
				<Dial
					wide
					label="Backdrop"
					value={preview.backdrop}
					least={0}
					most={1}
					usual={0.467}
					unit="%"
					hint="Dark to light; double-click for the usual grey"
					onChange={(backdrop) => set({ backdrop })}
				/>
			</div>
			{poses.length > 0 && (
				<>
					<h3 className="bay-title mt-3 mb-1.5">Pose</h3>
					<Choice
						label="Pose of the figure"
						value={posing ?? ''}
						options={[['', 'At rest'], ...poses.map((name) => [name, name] as const)]}
						onChange={(name) => pose(name || null)}
					/>
					<p className="mt-1.5 text-[12px] text-ash">
						Painting on the sheet shows at once. Press the figure and it is at rest again, to be painted on.
					</p>
				</>
			)}
			{pixels && (
				<div className="mt-3">
					<Check
						label="As it was when this visit began"
						hint="Also while O is held"
						value={before}
						onChange={(beforeShown) => useStudio.setState({ beforeShown })}
					/>
				</div>
			)}
			<h3 className="bay-title mt-3 mb-1.5">Turntable</h3>
			<div className="flex flex-wrap gap-1">
				<Button aria-pressed={turning} onClick={() => turnAround(!turning)}>
					{turning ? 'Stop' : 'Turn round'}
				</Button>
				<Button disabled={saving} onClick={() => void saveTurntable('apng')} title="36 pictures as one animated PNG">
					Animated PNG
				</Button>
				<Button disabled={saving} onClick={() => void saveTurntable('zip')} title="36 PNG pictures in a ZIP">
					Pictures
				</Button>
			</div>
			{saving && (
				<p role="status" className="mt-1 text-[12px] text-ash">
					Drawing the pictures…
				</p>
			)}
		</Popover>
	);
}
