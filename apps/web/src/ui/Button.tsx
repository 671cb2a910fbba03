import type { ButtonHTMLAttributes } from 'react';

type Look = 'plain' | 'main' | 'danger' | 'bare';

const looks: Record<Look, string> = {
	plain: 'bg-sheet border border-rule hover:bg-bark disabled:text-ash disabled:opacity-55',
	main: 'bg-pine text-on-pine border border-pine hover:brightness-110 disabled:opacity-55',
	danger: 'bg-sheet border border-rule text-lingon hover:bg-bark',
	bare: 'border border-transparent hover:bg-bark',
};

/** A button with our corners; `look` says what it does to the work. */
export function Button({
	look = 'plain',
	className = '',
	...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { readonly look?: Look }) {
	return (
		<button
			type="button"
			{...rest}
			className={`cut px-3 py-1 text-[13px] leading-5 whitespace-nowrap transition-colors duration-100 ${looks[look]} ${className}`}
		/>
	);
}
