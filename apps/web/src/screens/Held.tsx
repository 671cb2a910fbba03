import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { heldHere, saveHeld } from '../actions/heldWork.ts';
import { whenBack } from '../server/health.ts';
import { Button } from '../ui/Button.tsx';
import { Mark } from '../ui/Mark.tsx';

/** Writes what this browser holds of a project as a file; nothing where it holds none. */
export function SaveHeld({ project }: { readonly project: string }) {
	const held = useQuery({ queryKey: ['held'], queryFn: heldHere, staleTime: 0 }).data;
	return held?.some((each) => each.project === project) ? (
		<Button onClick={() => void saveHeld(project)}>Save what is held here as a file</Button>
	) : null;
}

/** Shown where there is no server: what this browser holds, and that it goes on by itself. */
export function AwayPage({ onBack }: { readonly onBack: () => void }) {
	const held = useQuery({ queryKey: ['held'], queryFn: heldHere, staleTime: 0 }).data ?? [];
	useEffect(() => whenBack(onBack), [onBack]);
	return (
		<main className="flex h-full flex-col items-center justify-center gap-4 px-6 text-center" role="status">
			<Mark />
			<h1 className="text-[22px] font-bold">The server is away</h1>
			<p className="max-w-md text-ash">Start Eppu on its machine again. This page goes on by itself once it answers.</p>
			{held.length === 0 ? (
				<p>This browser holds nothing that the server has not kept.</p>
			) : (
				<section aria-label="Held in this browser" className="w-[440px] max-w-full text-left">
					<h2 className="bay-title mb-2">Held in this browser until then</h2>
					<ul className="grid gap-2">
						{held.map((each) => (
							<li
								key={each.project}
								className="cut flex items-center gap-3 border border-rule bg-sheet py-1.5 pr-1.5 pl-3"
							>
								<span className="min-w-0 flex-1 truncate font-semibold">{each.name}</span>
								<span className="text-ash">{each.words}</span>
								<Button onClick={() => void saveHeld(each.project)}>Save as a file</Button>
							</li>
						))}
					</ul>
				</section>
			)}
		</main>
	);
}
