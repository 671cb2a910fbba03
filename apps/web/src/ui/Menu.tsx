import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

export interface MenuItem {
	readonly label: string;
	readonly run: () => void;
	readonly danger?: boolean;
	readonly chosen?: boolean;
	readonly keys?: string;
}

/** A button that opens a list of commands. */
export function Menu({
	label,
	items,
	children,
	className = '',
}: {
	readonly label: string;
	readonly items: readonly MenuItem[];
	readonly children: ReactNode;
	readonly className?: string;
}) {
	return (
		<DropdownMenu.Root>
			<DropdownMenu.Trigger
				aria-label={label}
				className={`cut-small p-1 hover:bg-bark data-[state=open]:bg-bark ${className}`}
			>
				{children}
			</DropdownMenu.Trigger>
			<DropdownMenu.Portal>
				<DropdownMenu.Content
					align="end"
					sideOffset={4}
					collisionPadding={8}
					className="cut z-50 max-h-[min(70vh,var(--radix-dropdown-menu-content-available-height))] min-w-40 overflow-y-auto border border-rule bg-sheet p-1 shadow-lg"
				>
					{items.map((item) => (
						<DropdownMenu.Item
							key={item.label}
							onSelect={item.run}
							className={`cut-small flex cursor-pointer items-center gap-3 px-2.5 py-1 outline-none data-[highlighted]:bg-bark ${item.danger ? 'text-lingon' : ''}`}
						>
							<span className={`flex-1 ${item.chosen ? 'font-bold' : ''}`}>{item.label}</span>
							{item.chosen && <span aria-hidden="true">·</span>}
							{item.keys && <kbd className="font-text text-ash">{item.keys}</kbd>}
						</DropdownMenu.Item>
					))}
				</DropdownMenu.Content>
			</DropdownMenu.Portal>
		</DropdownMenu.Root>
	);
}
