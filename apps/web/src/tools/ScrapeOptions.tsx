import { setTool } from '../actions/tools.ts';
import { useStudio } from '../studio/store.ts';
import { Choice } from '../ui/Choice.tsx';

/** Cut through the coats, or bring them back. */
export function ScrapeOptions() {
	const tool = useStudio((state) => state.tool);
	return (
		<Choice
			label="Scrape or mend"
			value={tool}
			options={[
				['scrape', 'Scrape'],
				['mend', 'Mend'],
			]}
			onChange={setTool}
		/>
	);
}
