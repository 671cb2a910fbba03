import { type TemplateLook, usualTemplate } from '@eppu/core/format';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';

/** Texels of the clear rim round the islands, as it is first. */
const RIM = 8;

/** A template as it is first offered. */
export const firstTemplate: TemplateLook = { ...usualTemplate, outside: RIM };

/** What is shown on a template. */
export function TemplateDials({
	look,
	onChange,
}: {
	readonly look: TemplateLook;
	readonly onChange: (look: TemplateLook) => void;
}) {
	const change = (part: Partial<TemplateLook>): void => onChange({ ...look, ...part });
	return (
		<>
			<Choice
				label="Islands are"
				value={look.fill}
				options={[
					['white', 'White'],
					['tints', 'In tints'],
					['none', 'Clear'],
				]}
				onChange={(fill) => change({ fill })}
			/>
			<Check label="Lines round islands" value={look.borders} onChange={(borders) => change({ borders })} />
			<Check label="Lines between faces" value={look.inner} onChange={(inner) => change({ inner })} />
			<Check label="Names of parts" value={look.names} onChange={(names) => change({ names })} />
			<Check
				label="Grey beside the islands"
				value={look.outside !== null}
				onChange={(on) => change({ outside: on ? RIM : null })}
			/>
			{look.outside !== null && (
				<Dial
					label="Clear rim"
					value={look.outside}
					least={0}
					most={64}
					usual={RIM}
					unit="tx"
					wide
					hint="Texels round each island that stay clear of the grey"
					onChange={(outside) => change({ outside })}
				/>
			)}
		</>
	);
}
