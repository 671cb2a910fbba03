/** A stage that is not built yet, or is none, says so. */
export function UnbuiltScreen({ name, until }: { readonly name: string; readonly until: string }) {
	return (
		<main className="flex flex-1 flex-col items-center justify-center gap-2 px-6 text-center">
			<h2 className="text-[20px] font-bold">{name} is not built yet</h2>
			<p className="max-w-md text-ash">{until}</p>
		</main>
	);
}
