import { Popover as Radix } from 'radix-ui';
import type { ReactNode, SyntheticEvent } from 'react';

const stop = (event: SyntheticEvent): void => event.stopPropagation();

/** Shuts the panel that its button stands in. */
export const Shutting = ({ children }: { readonly children: ReactNode }) => (
	<Radix.Close asChild>{children}</Radix.Close>
);

/** A button that opens a small panel beside it. */
export function Popover({
	label,
	trigger,
	children,
	className = '',
	panelClass = 'w-72',
	side = 'top',
	pressed,
}: {
	readonly label: string;
	readonly trigger: ReactNode;
	readonly children: ReactNode;
	readonly className?: string;
	readonly panelClass?: string;
	readonly side?: 'top' | 'bottom' | 'left' | 'right';
	readonly pressed?: boolean;
}) {
	return (
		<Radix.Root>
			<Radix.Trigger aria-label={label} title={label} data-pressed={pressed || undefined} className={className}>
				{trigger}
			</Radix.Trigger>
			<Radix.Portal>
				<Radix.Content
					side={side}
					align="start"
					sideOffset={8}
					collisionPadding={8}
					aria-label={label}
					onOpenAutoFocus={(event) => event.preventDefault()}
					className={`cut z-40 max-h-[min(70vh,var(--radix-popover-content-available-height))] overflow-y-auto border border-rule bg-sheet p-3 text-[13px] text-soot shadow-xl ${panelClass}`}
				>
					{/* To React the panel stands where its button does: what is done in it must not reach what is around that. */}
					<div onPointerDown={stop} onPointerMove={stop} onPointerUp={stop} onKeyDown={stop} onDoubleClick={stop}>
						{children}
					</div>
				</Radix.Content>
			</Radix.Portal>
		</Radix.Root>
	);
}
