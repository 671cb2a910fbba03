import { useParams } from 'react-router';
import { stages } from './TopStrip.tsx';

const promises: Record<string, string> = {
	'lay-out':
		'Unwrapping, arranging islands and measuring texel density will be done here. Until then bring models with UVs.',
	light:
		'Baked occlusion and light layers will be made here. Until then light is painted by hand, as on the demo smoker.',
	'look-over': 'Checks and small-size previews will be here.',
};

/** A stage that is not built yet says so. */
export function UnbuiltScreen() {
	const { stage = '' } = useParams();
	const name = stages.find((each) => each.path === stage)?.name ?? 'This stage';
	return (
		<main className="flex flex-1 flex-col items-center justify-center gap-2 px-6 text-center">
			<h2 className="text-[20px] font-bold">{name} is not built yet</h2>
			<p className="max-w-md text-ash">{promises[stage] ?? 'There is no such stage.'}</p>
		</main>
	);
}
