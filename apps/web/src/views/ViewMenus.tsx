import { freeName, type MirrorDesk } from '@eppu/core/document';
import { straight, straightSides } from '../actions/views.ts';
import { setDesk } from '../studio/desk.ts';
import { modelShown, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';
import { Popover, Shutting } from '../ui/Popover.tsx';
import { overView } from './Toggles.tsx';

const setMirror = (change: Partial<MirrorDesk>): void =>
	setDesk({ mirror: { ...useStudio.getState().desk.mirror, ...change } });

/** Straight views, roll, what the brush reaches, and views kept by name. */
export function ViewsMenu() {
	const camera = useStudio((state) => state.desk.camera);
	const views = useStudio((state) => state.desk.views);
	const reach = useStudio((state) => state.desk.reach);
	const fade = useStudio((state) => state.desk.fade);
	return (
		<Popover label="Views" side="bottom" className={overView(camera.parallel)} trigger="Views">
			<h3 className="bay-title mb-1.5">Straight views</h3>
			<div className="mb-3 grid grid-cols-3 gap-1">
				{straightSides.map((side, i) => (
					<Button key={side} onClick={() => straight(side)} title={`Alt+${i + 1}`}>
						{side[0]?.toUpperCase() + side.slice(1)}
					</Button>
				))}
			</div>
			<div className="mb-3 flex items-center gap-2">
				<Check
					label="Parallel rays"
					value={camera.parallel}
					onChange={(parallel) => setDesk({ camera: { ...camera, parallel } })}
				/>
				<span className="flex-1" />
				<span className="text-[12px] text-ash">Roll {Math.round(camera.roll)}°</span>
				<Button onClick={() => setDesk({ camera: { ...camera, roll: camera.roll - 15 } })} aria-label="Roll left">
					−15
				</Button>
				<Button onClick={() => setDesk({ camera: { ...camera, roll: camera.roll + 15 } })} aria-label="Roll right">
					+15
				</Button>
				<Button disabled={camera.roll === 0} onClick={() => setDesk({ camera: { ...camera, roll: 0 } })}>
					0
				</Button>
			</div>
			<h3 className="bay-title mb-1.5">The brush reaches</h3>
			<Choice
				label="The brush reaches"
				value={reach}
				options={[
					['seen', 'What is seen'],
					['front', 'All front faces'],
					['through', 'Through the model'],
				]}
				onChange={(next) => setDesk({ reach: next })}
			/>
			{reach === 'seen' && (
				<div className="mt-2">
					<Dial
						label="Fade"
						unit="%"
						least={0}
						most={1}
						value={fade}
						usual={0}
						hint="Paint thins out where the surface turns away"
						onChange={(next) => setDesk({ fade: next })}
					/>
				</div>
			)}
			<h3 className="bay-title mt-3 mb-1.5">Kept views</h3>
			<ul>
				{views.map((view, i) => (
					<li key={view.name} className="flex items-center gap-1">
						<button
							type="button"
							className="cut-small min-w-0 flex-1 truncate px-2 py-0.5 text-left hover:bg-bark"
							onClick={() => setDesk({ camera: view.camera })}
						>
							{view.name}
						</button>
						<button
							type="button"
							aria-label={`Drop ${view.name}`}
							className="cut-small px-1.5 text-ash hover:bg-bark"
							onClick={() => setDesk({ views: views.filter((_, k) => k !== i) })}
						>
							×
						</button>
					</li>
				))}
			</ul>
			<Button
				className="mt-1"
				onClick={() => {
					const name = freeName(
						'View 1',
						views.map((view) => view.name),
					);
					setDesk({ views: [...views, { name, camera }] });
				}}
			>
				Keep this view
			</Button>
		</Popover>
	);
}

/** Over which planes strokes on the model are mirrored. */
export function ModelMirrorMenu() {
	const mirror = useStudio((state) => state.desk.mirror);
	const center = useStudio((state) => modelShown(state)?.center);
	const slanting = useStudio((state) => state.slanting);
	const on = mirror.x || mirror.y || mirror.z || mirror.slant?.on === true;
	const names = [
		['x', 'Left to right'],
		['y', 'Top to bottom'],
		['z', 'Front to back'],
	] as const;
	return (
		<Popover
			label="Mirror on the model"
			side="bottom"
			className={overView(on)}
			trigger={
				slanting
					? 'Draw the plane…'
					: on
						? `Mirror ${[...names.flatMap(([axis]) => (mirror[axis] ? axis.toUpperCase() : [])), ...(mirror.slant?.on ? ['slanted'] : [])].join(' ')}`
						: 'Mirror'
			}
		>
			<h3 className="bay-title mb-1.5">Strokes are mirrored</h3>
			{names.map(([axis, words], i) => (
				<div key={axis} className="mb-1 flex items-center gap-2">
					<span className="flex-1">
						<Check
							label={`${words} (${axis.toUpperCase()})`}
							value={mirror[axis]}
							onChange={(value) => setMirror({ [axis]: value })}
						/>
					</span>
					<label className="text-[12px] text-ash">
						at{' '}
						<input
							type="number"
							step="0.01"
							aria-label={`Mirror plane of ${axis.toUpperCase()} at`}
							className="w-16 bg-paper text-right text-soot"
							value={mirror.at[i]}
							onChange={(event) => {
								const value = event.currentTarget.valueAsNumber;
								if (Number.isFinite(value))
									setMirror({ at: mirror.at.map((v, k) => (k === i ? value : v)) as [number, number, number] });
							}}
						/>
					</label>
				</div>
			))}
			<div className="mb-2 flex items-center gap-2">
				<span className="flex-1">
					<Check
						label="A plane of my own"
						value={mirror.slant?.on ?? false}
						onChange={(value) =>
							mirror.slant
								? setMirror({ slant: { ...mirror.slant, on: value } })
								: useStudio.setState({ slanting: value })
						}
					/>
				</span>
				<Shutting>
					<Button
						onClick={() => useStudio.setState({ slanting: !slanting })}
						title="The next drag across the model draws the plane, seen edge-on"
					>
						{slanting ? 'Leave off' : mirror.slant ? 'Draw anew' : 'Draw it'}
					</Button>
				</Shutting>
			</div>
			<Button
				disabled={!center}
				onClick={() =>
					center && setMirror({ at: center.map((v) => Math.round(v * 1000) / 1000) as [number, number, number] })
				}
			>
				Planes through the model’s middle
			</Button>
			<p className="mt-2 text-[12px] text-ash">
				Hold B to leave the mirror out for one stroke. A broken ring says that the model has nothing there.
			</p>
		</Popover>
	);
}

/** Over which lines strokes on the sheet are mirrored. */
export function SheetMirrorMenu() {
	const mirror = useStudio((state) => state.desk.mirror);
	const on = mirror.sheetX || mirror.sheetY;
	return (
		<Popover label="Mirror on the sheet" side="bottom" className={overView(on)} trigger="Mirror" panelClass="w-60">
			<h3 className="bay-title mb-1.5">Strokes are mirrored</h3>
			<Check label="Left half to right half" value={mirror.sheetX} onChange={(sheetX) => setMirror({ sheetX })} />
			<Check label="Upper half to lower half" value={mirror.sheetY} onChange={(sheetY) => setMirror({ sheetY })} />
			<p className="mt-2 text-[12px] text-ash">Hold B to leave the mirror out for one stroke.</p>
		</Popover>
	);
}
