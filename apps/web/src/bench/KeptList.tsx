import type { LibraryItem } from '../server/api.ts';

/** Things of the library by name: a click takes one, the cross deletes it. */
export function KeptList({
	items,
	onTake,
	onDrop,
	className = '',
}: {
	readonly items: readonly LibraryItem[];
	readonly onTake: (item: LibraryItem) => void;
	readonly onDrop: (id: string) => void;
	readonly className?: string;
}) {
	return (
		<ul className={className}>
			{items.map((item) => (
				<li key={item.id} className="flex items-center gap-1">
					<button
						type="button"
						className="cut-small min-w-0 flex-1 truncate px-2 py-0.5 text-left hover:bg-bark"
						onClick={() => onTake(item)}
					>
						{item.name}
					</button>
					<button
						type="button"
						aria-label={`Delete ${item.name}`}
						className="cut-small px-1.5 text-ash hover:bg-bark"
						onClick={() => onDrop(item.id)}
					>
						×
					</button>
				</li>
			))}
		</ul>
	);
}

/** The cross over the corner of a picture that deletes it. */
export function DropCross({ label, onDrop }: { readonly label: string; readonly onDrop: () => void }) {
	return (
		<button
			type="button"
			aria-label={`Delete ${label}`}
			onClick={onDrop}
			className="cut-small absolute top-0.5 right-0.5 bg-sheet px-1 text-[12px] leading-4 text-ash hover:text-lingon"
		>
			×
		</button>
	);
}
