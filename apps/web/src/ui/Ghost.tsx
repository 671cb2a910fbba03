import type { ComponentPropsWithRef } from 'react';

/**
 * Stands where another element does, unseen and out of the way: what opens beside a control is held to it, and nothing of
 * it is there while it is shut. Hundreds of controls each with a shut list of their own make every stroke of a dial slow.
 */
export function Ghost({ of, ...rest }: { readonly of: Element } & Omit<ComponentPropsWithRef<'span'>, 'children'>) {
	const { left, top, width, height } = of.getBoundingClientRect();
	return (
		<span
			{...rest}
			aria-hidden="true"
			tabIndex={-1}
			className="pointer-events-none fixed"
			style={{ left, top, width, height }}
		/>
	);
}
