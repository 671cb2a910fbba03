import { Tooltip } from 'radix-ui';
import type { ReactNode } from 'react';

/** A tooltip: what a control does, and its key. */
export function Hint({
	text,
	keys,
	side = 'top',
	children,
}: {
	readonly text: string;
	readonly keys?: string | undefined;
	readonly side?: 'top' | 'bottom' | 'left' | 'right';
	readonly children: ReactNode;
}) {
	return (
		<Tooltip.Root>
			<Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
			<Tooltip.Portal>
				<Tooltip.Content
					side={side}
					sideOffset={6}
					collisionPadding={8}
					className="cut z-50 max-w-64 bg-soot px-2.5 py-1 text-[12px] text-paper"
				>
					{text}
					{keys && <kbd className="ml-2 font-text font-semibold opacity-75">{keys}</kbd>}
				</Tooltip.Content>
			</Tooltip.Portal>
		</Tooltip.Root>
	);
}
