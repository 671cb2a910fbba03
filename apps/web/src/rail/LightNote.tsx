import { Link, useParams } from 'react-router';

/** Where the dials of a light layer stand. */
export function LightNote() {
	const { id } = useParams();
	return (
		<p className="text-ash">
			Its lamps and dials stand in the{' '}
			<Link to={`/project/${id}/light`} className="underline">
				Light
			</Link>{' '}
			stage.
		</p>
	);
}
