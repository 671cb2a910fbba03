import { DotsThreeIcon } from '@phosphor-icons/react/dist/csr/DotsThree';
import { useState } from 'react';
import { Link } from 'react-router';
import { coverUrl, type ProjectCard } from '../../server/api.ts';
import { Menu } from '../../ui/Menu.tsx';

const ago = (time: number): string => {
	const minutes = Math.round((Date.now() - time) / 60000);
	if (minutes < 1) return 'just now';
	if (minutes < 60) return `${minutes} min ago`;
	if (minutes < 60 * 24) return `${Math.round(minutes / 60)} h ago`;
	return new Date(time).toLocaleDateString();
};

interface CardProps {
	readonly card: ProjectCard;
	readonly onCopy: () => void;
	readonly onDelete: () => void;
	readonly onRename: (name: string) => void;
}

/** A project as a picture that opens it. */
export function Card({ card, onCopy, onDelete, onRename }: CardProps) {
	const [naming, setNaming] = useState(false);
	return (
		<li className="cut relative overflow-hidden border border-rule bg-sheet transition-shadow duration-100 focus-within:shadow-md hover:shadow-md">
			{/* The link reaches over the whole card; name field and menu lie above it. */}
			<Link
				to={`/project/${card.id}/paint`}
				aria-label={`Open ${card.name}`}
				className="block h-[188px] bg-view after:absolute after:inset-0"
			>
				{card.hasCover ? (
					<img src={coverUrl(card)} alt="" className="size-full object-contain" />
				) : (
					<span className="flex size-full items-center justify-center text-white">No picture yet</span>
				)}
			</Link>
			<div className="flex items-center gap-2 py-1.5 pr-1.5 pl-3">
				<div className="min-w-0 flex-1">
					{naming ? (
						<input
							autoFocus
							aria-label="Project name"
							maxLength={120}
							defaultValue={card.name}
							onFocus={(event) => event.target.select()}
							className="relative z-10 w-full bg-paper font-semibold"
							onBlur={() => setNaming(false)}
							onKeyDown={(event) => {
								if (event.key === 'Escape') setNaming(false);
								if (event.key !== 'Enter') return;
								onRename(event.currentTarget.value);
								setNaming(false);
							}}
						/>
					) : (
						<p className="truncate font-semibold" title={card.name}>
							{card.name}
						</p>
					)}
					<p className="text-[12px] text-ash">Kept {ago(card.updatedAt)}</p>
				</div>
				<Menu
					className="relative z-10"
					label={`More for ${card.name}`}
					items={[
						{ label: 'Rename', run: () => setTimeout(() => setNaming(true)), takesFocus: true },
						{ label: 'Copy', run: onCopy },
						{ label: 'Delete', run: onDelete, danger: true },
					]}
				>
					<DotsThreeIcon size={20} weight="bold" />
				</Menu>
			</div>
		</li>
	);
}
