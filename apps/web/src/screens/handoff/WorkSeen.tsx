import { BothViews } from '../../views/BothViews.tsx';
import { Computing } from '../../views/Computing.tsx';

/** The work in both views, and how much of it is still being computed: what is written waits for that. */
export const WorkSeen = () => (
	<div className="relative flex min-w-0 flex-1">
		<BothViews />
		<Computing />
	</div>
);
