import { mapWords } from '@eppu/core/format';
import { type GreenWay, greenWay, type MapBake } from '@eppu/core/light';
import type { Picture } from '@eppu/core/surface';
import { useQuery } from '@tanstack/react-query';
import { mapFile } from '../../actions/models.ts';
import { stem } from '../../actions/newProject.ts';
import { PictureChoice } from '../../rail/PictureChoice.tsx';
import { fileUrl } from '../../server/api.ts';
import { libraryPicture, pictureOfFile, useLibrary } from '../../server/library.ts';
import { useStudio } from '../../studio/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { Choice } from '../../ui/Choice.tsx';

/** Texels along the side that tell which way green goes. */
const LOOKED = 1024;

/** What the map's picture is, in words, and which way its green goes; null is none of normals. */
interface Found {
	readonly words: string | null;
	readonly green: GreenWay | null;
}

/** What is found out about a map by looking at its picture. */
function useFound({ picture, file }: MapBake): Found | null {
	const project = useStudio((state) => state.outline?.project.id) ?? '';
	const own = useLibrary('stencil').some(({ id }) => id === picture);
	const look = async (): Promise<Found> => {
		let seen: Picture | null = null;
		let words: string | null = null;
		if (file) {
			const bytes = await (await fetch(fileUrl(project, file))).arrayBuffer();
			words = mapWords(new Uint8Array(bytes));
			const read = await pictureOfFile(new File([bytes], file.name), LOOKED);
			seen = read.ok ? read.picture : null;
		} else if (own) seen = await libraryPicture(picture);
		return { words, green: seen && greenWay(seen) };
	};
	return (
		useQuery({ queryKey: ['map', project, file?.hash ?? picture, own], queryFn: look, staleTime: Infinity }).data ??
		null
	);
}

/** A picture that was baked elsewhere: which one, and what of it is the tone. */
export function MapDials({ bake, put }: { readonly bake: MapBake; readonly put: (bake: MapBake) => void }) {
	const found = useFound(bake);
	const { file } = bake;
	const bring = async (): Promise<void> => {
		const given = await mapFile();
		if (given) put({ ...bake, name: file ? bake.name : stem(given.name).slice(0, 120) || bake.name, file: given });
	};
	return (
		<div className="grid gap-1.5">
			<div className="flex gap-1.5">
				<Button onClick={() => void bring()}>{file ? 'Another…' : 'From a file…'}</Button>
				{file && <Button onClick={() => put({ ...bake, file: null })}>From the library</Button>}
			</div>
			{file ? (
				<p className="text-ash">
					<span className="block truncate" title={file.name}>
						{file.name}
					</span>
					{found?.words}
				</p>
			) : (
				<PictureChoice
					label="Picture of the map"
					value={bake.picture}
					onChange={(picture) => put({ ...bake, picture })}
				/>
			)}
			<Choice
				label="Channel"
				tight
				value={bake.channel}
				options={[
					['tone', 'Tone'],
					['red', 'Red'],
					['green', 'Green'],
					['blue', 'Blue'],
					['alpha', 'Alpha'],
				]}
				onChange={(channel) => put({ ...bake, channel })}
			/>
			<div className="flex gap-3">
				<Check
					label="Colours, not data"
					hint="Its numbers are sRGB and are decoded first"
					value={bake.bytes === 'srgb'}
					onChange={(srgb) => put({ ...bake, bytes: srgb ? 'srgb' : 'plain' })}
				/>
				<Check label="Turned round" value={bake.turned} onChange={(turned) => put({ ...bake, turned })} />
			</div>
			{found?.green && (
				<p className="text-ash">
					A picture of normals: its green goes {found.green.way}, {Math.round(found.green.sure * 100)}% sure.{' '}
					<button
						type="button"
						className="underline"
						onClick={() => put({ ...bake, channel: 'green', bytes: 'plain', turned: found.green?.way === 'down' })}
					>
						Take its light from above
					</button>
				</p>
			)}
		</div>
	);
}
