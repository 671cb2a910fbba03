import { Mark } from '../ui/Mark.tsx';

/** Shown where the browser does not trust the page: why, and how that is mended. */
export function InsecurePage() {
	return (
		<main className="flex h-full flex-col items-center justify-center gap-4 px-6 text-center" role="alert">
			<Mark />
			<h1 className="text-[22px] font-bold">This browser does not trust the address</h1>
			<p className="max-w-lg text-ash">
				Keeping what you paint needs stores that browsers give only to pages of this machine (<b>http://localhost</b>)
				or over <b>https</b>. Whoever runs this server gives it a key and a certificate: the settings <b>EPPU_KEY</b>{' '}
				and <b>EPPU_CERT</b> name their files. Then open the address with https.
			</p>
		</main>
	);
}
