import { projectOut } from '../../studio/line.ts';
import { useStudio } from '../../studio/store.ts';
import { Bay, Frame, WriteBay } from './Frame.tsx';
import { useStem, type Writing } from './useWriting.ts';
import { WorkSeen } from './WorkSeen.tsx';

/** The whole project as one file that any program can look into, and Eppu opens again. */
export function ProjectOutput({ writing }: { readonly writing: Writing }) {
	const desk = useStudio((state) => state.desk);
	const stem = useStem();
	return (
		<Frame middle={<WorkSeen />}>
			<Bay title="The whole project" wide="w-[360px]">
				<p className="text-ash">
					An open ZIP: the document as JSON, each surface as PNG, models as they came. Dropped on the projects page, on
					this machine or another, it opens to the same texels.
				</p>
			</Bay>
			<WriteBay
				writing={writing}
				words="Write the project"
				write={() =>
					void writing.write(
						[
							{
								name: 'The project',
								make: async () => {
									const answer = await projectOut(desk);
									return { ...answer, files: answer.files.map(([, bytes]) => [`${stem} project.zip`, bytes] as const) };
								},
							},
						],
						{ name: stem, what: 'Project' },
					)
				}
			/>
		</Frame>
	);
}
