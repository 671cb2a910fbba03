import { type GreenWay, greenWay, type MapBake } from '@eppu/core/light';
import { useEffect, useState } from 'react';
import { PictureChoice } from '../../rail/PictureChoice.tsx';
import { choosePictures, libraryCanvas, useLibrary, useLibraryChange } from '../../server/library.ts';
import { tell } from '../../studio/line.ts';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { Choice } from '../../ui/Choice.tsx';

/** Which way the green of one of the artist's own pictures goes; null where it is no picture of normals. */
function useGreenWay(picture: string): GreenWay | null {
	const own = useLibrary('stencil').some(({ id }) => id === picture);
	const [found, setFound] = useState<{ readonly of: string; readonly way: GreenWay | null } | null>(null);
	useEffect(() => {
		if (!own) return;
		let gone = false;
		void libraryCanvas(picture).then((canvas) => {
			const { width, height } = canvas;
			const data = canvas.getContext('2d')?.getImageData(0, 0, width, height).data;
			if (!gone && data) setFound({ of: picture, way: greenWay({ width, height, data: new Uint8Array(data) }) });
		});
		return () => {
			gone = true;
		};
	}, [picture, own]);
	return found?.of === picture ? found.way : null;
}

/** A picture that was baked elsewhere: which one, and what of it is the tone. */
export function MapDials({ bake, put }: { readonly bake: MapBake; readonly put: (bake: MapBake) => void }) {
	const green = useGreenWay(bake.picture);
	const { addPictures } = useLibraryChange();
	const bring = async (): Promise<void> => {
		const [id] = await addPictures('stencil', await choosePictures(false));
		if (!id) return;
		tell({ say: 'need', picture: id });
		put({ ...bake, picture: id });
	};
	return (
		<div className="grid gap-1.5">
			<PictureChoice
				label="Picture of the map"
				value={bake.picture}
				onChange={(picture) => put({ ...bake, picture })}
			/>
			<Button className="justify-self-start" onClick={() => void bring()}>
				Bring a picture in…
			</Button>
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
					hint="Its bytes are sRGB and are decoded first"
					value={bake.bytes === 'srgb'}
					onChange={(srgb) => put({ ...bake, bytes: srgb ? 'srgb' : 'plain' })}
				/>
				<Check label="Turned round" value={bake.turned} onChange={(turned) => put({ ...bake, turned })} />
			</div>
			{green && (
				<p className="text-ash">
					A picture of normals: its green goes {green.way}, {Math.round(green.sure * 100)}% sure.{' '}
					<button
						type="button"
						className="underline"
						onClick={() => put({ ...bake, channel: 'green', bytes: 'plain', turned: green.way === 'down' })}
					>
						Take its light from above
					</button>
				</p>
			)}
		</div>
	);
}
