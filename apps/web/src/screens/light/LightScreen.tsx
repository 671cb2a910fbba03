import { type LightLayer, layerOf } from '@eppu/core/document';
import { useEffect, useMemo, useState } from 'react';
import { choose } from '../../actions/layers.ts';
import { changeLight, seeBake } from '../../actions/light.ts';
import { SheetTabs } from '../../stack/SheetTabs.tsx';
import { bakesOf } from '../../studio/bakes.ts';
import { question } from '../../studio/line.ts';
import type { Pressed } from '../../studio/slices/screen.ts';
import { activeLayerId, activeSheet, modelShown, useStudio } from '../../studio/store.ts';
import type { ShownModel } from '../../studio/told.ts';
import { BothViews } from '../../views/BothViews.tsx';
import { Computing } from '../../views/Computing.tsx';
import { BakeBay } from './BakeBay.tsx';
import { BakeList } from './BakeList.tsx';
import { LightList } from './LightList.tsx';
import { RigBays } from './RigBays.tsx';

/** The turn and rise of where a face looks. */
function facing({ positions, indices }: ShownModel, face: number): { readonly turn: number; readonly rise: number } {
	const at = (k: number, axis: number): number => positions[(indices[face * 3 + k] as number) * 3 + axis] as number;
	const [e, f] = [1, 2].map((k) => [0, 1, 2].map((axis) => at(k, axis) - at(0, axis))) as [number[], number[]];
	const [ex, ey, ez] = e as [number, number, number];
	const [fx, fy, fz] = f as [number, number, number];
	const [x, y, z] = [ey * fz - ez * fy, ez * fx - ex * fz, ex * fy - ey * fx];
	const degrees = 180 / Math.PI;
	return {
		turn: Math.round(Math.atan2(x, z) * degrees),
		rise: Math.round(Math.asin(y / (Math.hypot(x, y, z) || 1)) * degrees),
	};
}

/** The Light stage: bakes and light layers on the left, both views, the dome and the dials of what is chosen below. */
export function LightScreen() {
	const sheet = useStudio(activeSheet);
	const model = useStudio(modelShown);
	const bakes = useStudio(bakesOf);
	const active = useStudio((state) => activeLayerId(state, activeSheet(state)));
	const [bakeId, setBake] = useState<string | null>(null);
	const [seen, setSeen] = useState<string | null>(null);
	const [lamp, setLamp] = useState<string | null>(null);
	const [everywhere, setEverywhere] = useState(true);
	const bake = bakes.find(({ id }) => id === bakeId) ?? null;
	const held = layerOf(sheet, active);
	const light = !bake && held?.kind === 'light' ? held : null;
	const see = (next: string | null): void => {
		setSeen(next);
		seeBake(next);
	};
	// What is looked at alone is not what the next stage shows.
	useEffect(() => () => seeBake(null), []);
	useEffect(() => {
		if (seen && !bakes.some(({ id }) => id === seen)) see(null);
	}, [bakes, seen]);
	const press = useMemo(
		() =>
			({ pointing }: Pressed): void => {
				if (!model || !light) return;
				void question<'edge'>({ say: 'edge', place: pointing, by: 'edge', from: null }).then((found) => {
					const [corner] = found?.corners ?? [];
					const of = light.rig.lamps.find(({ id }) => id === lamp) ?? light.rig.lamps[0];
					if (corner === undefined || found?.model !== model.id || !of) return;
					const to = facing(model, Math.floor(corner / 3));
					const lamps = light.rig.lamps.map((each) => (each.id === of.id ? { ...each, ...to } : each));
					changeLight(light, { lamps }, everywhere);
				});
			},
		[model, light, lamp, everywhere],
	);
	useEffect(() => {
		useStudio.setState({
			shading: {
				model: model?.id ?? '',
				colors: null,
				checker: false,
				lit: null,
				marks: null,
				cut: null,
				unfold: 0,
				...(bake?.finer ? { cage: bake.finer.cage } : {}),
				press,
				grab: () => false,
				drag: () => undefined,
			},
		});
		return () => useStudio.setState({ shading: null });
	}, [model, press, bake?.finer?.cage]);
	if (!sheet) return null;
	const pick = (layer: LightLayer): void => {
		setBake(null);
		setLamp(null);
		choose(sheet, layer.id);
	};
	return (
		<main className="flex min-h-0 flex-1 flex-col">
			<div className="flex min-h-0 flex-1">
				<aside className="flex w-[280px] shrink-0 flex-col border-r border-rule" aria-label="Bakes and light layers">
					<SheetTabs />
					<div className="min-h-0 flex-1 overflow-y-auto">
						<LightList
							sheet={sheet}
							chosen={light?.id ?? null}
							choose={pick}
							everywhere={everywhere}
							setEverywhere={setEverywhere}
						/>
						<BakeList chosen={bake?.id ?? null} choose={setBake} seen={seen} see={see} />
					</div>
				</aside>
				<div className="relative flex min-w-0 flex-1">
					<BothViews />
					<Computing />
				</div>
			</div>
			<div className="flex min-h-[152px] items-start gap-4 overflow-x-auto border-t border-rule px-3 py-2 xl:gap-5 xl:px-4">
				{bake ? (
					<BakeBay bake={bake} />
				) : light ? (
					<RigBays layer={light} everywhere={everywhere} lamp={lamp} setLamp={setLamp} />
				) : (
					<p className="max-w-md self-center text-ash">
						Choose a light layer or a bake on the left: its dials stand here. Light falls where the model is pressed.
					</p>
				)}
			</div>
		</main>
	);
}
