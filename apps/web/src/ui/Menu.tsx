import { CaretRightIcon } from '@phosphor-icons/react/dist/csr/CaretRight';
import { CheckIcon } from '@phosphor-icons/react/dist/csr/Check';
import { DropdownMenu } from 'radix-ui';
import { type ReactNode, type SyntheticEvent, useCallback, useRef, useState } from 'react';
import { Ghost } from './Ghost.tsx';

export interface MenuItem {
	readonly label: string;
	readonly run?: () => unknown;
	/** A list of its own that opens beside it. */
	readonly items?: readonly MenuItem[];
	readonly danger?: boolean;
	readonly chosen?: boolean;
	readonly keys?: string;
	/** Begins a group: a line stands above it. */
	readonly apart?: boolean;
	/** What it opens takes the focus: it does not go back to the button. */
	readonly takesFocus?: boolean;
}

const panel =
	'cut z-50 max-h-[min(80vh,var(--radix-dropdown-menu-content-available-height))] min-w-40 overflow-y-auto border border-rule bg-sheet p-1 text-[13px] text-soot shadow-lg';
const row = 'cut-small flex cursor-pointer items-center gap-3 px-2.5 py-1 leading-[18px] outline-none';

function Rows({
	items,
	onChoose,
}: {
	readonly items: readonly MenuItem[];
	readonly onChoose: (item: MenuItem) => void;
}) {
	return items.map((item) => (
		<div key={item.label}>
			{item.apart && <DropdownMenu.Separator className="mx-1.5 my-1 h-px bg-rule" />}
			{item.items ? (
				<DropdownMenu.Sub>
					<DropdownMenu.SubTrigger className={`${row} data-[highlighted]:bg-bark data-[state=open]:bg-bark`}>
						<span className="flex-1">{item.label}</span>
						<CaretRightIcon size={11} />
					</DropdownMenu.SubTrigger>
					<DropdownMenu.Portal>
						<DropdownMenu.SubContent collisionPadding={8} sideOffset={4} className={panel}>
							<Rows items={item.items} onChoose={onChoose} />
						</DropdownMenu.SubContent>
					</DropdownMenu.Portal>
				</DropdownMenu.Sub>
			) : (
				<DropdownMenu.Item
					onSelect={() => onChoose(item)}
					className={`${row} data-[highlighted]:bg-bark ${item.danger ? 'text-lingon' : ''}`}
				>
					<span className="flex-1">{item.label}</span>
					{item.chosen && <CheckIcon size={11} weight="bold" aria-label="chosen" />}
					{item.keys && <kbd className="font-text text-ash">{item.keys}</kbd>}
				</DropdownMenu.Item>
			)}
		</div>
	));
}

const stop = (event: SyntheticEvent): void => event.stopPropagation();

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
	const taken = useRef(false);
	const button = useRef<HTMLButtonElement>(null);
	const [open, setOpen] = useState<'no' | 'by pointer' | 'by keys'>('no');
	/** The list comes after the key that opened it: it cannot know of that by itself. */
	const focusFirst = useCallback(
		(list: HTMLElement | null): void => {
			if (list && open === 'by keys')
				requestAnimationFrame(() => list.querySelector<HTMLElement>('[role="menuitem"]')?.focus());
		},
		[open],
	);
	return (
		<>
			<button
				ref={button}
				type="button"
				aria-label={label}
				aria-haspopup="menu"
				aria-expanded={open !== 'no'}
				onClick={({ detail }) => setOpen(detail === 0 ? 'by keys' : 'by pointer')}
				onKeyDown={(event) => {
					if (event.key !== 'ArrowDown') return;
					event.preventDefault();
					setOpen('by keys');
				}}
				className={`cut-small p-1 hover:bg-bark aria-expanded:bg-bark ${className}`}
			>
				{children}
			</button>
			{open !== 'no' && button.current && (
				<DropdownMenu.Root open onOpenChange={() => setOpen('no')}>
					<DropdownMenu.Trigger asChild>
						<Ghost of={button.current} />
					</DropdownMenu.Trigger>
					<DropdownMenu.Portal>
						{/* To React the list stands where its button does: what is done in it must not reach what is around that. */}
						<DropdownMenu.Content
							ref={focusFirst}
							align="end"
							sideOffset={4}
							collisionPadding={8}
							aria-label={label}
							className={panel}
							onPointerDown={stop}
							onPointerMove={stop}
							onPointerUp={stop}
							onCloseAutoFocus={(event) => {
								event.preventDefault();
								if (!taken.current) button.current?.focus();
								taken.current = false;
							}}
						>
							<Rows
								items={items}
								onChoose={(item) => {
									taken.current = item.takesFocus === true;
									item.run?.();
								}}
							/>
						</DropdownMenu.Content>
					</DropdownMenu.Portal>
				</DropdownMenu.Root>
			)}
		</>
	);
}
