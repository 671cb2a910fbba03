/** A name that is typed in place: Enter or leaving it takes it, Escape does not. */
export function NameField({
	name,
	most,
	onName,
	onClose,
}: {
	readonly name: string;
	readonly most: number;
	readonly onName: (name: string) => void;
	readonly onClose: () => void;
}) {
	return (
		<input
			autoFocus
			aria-label={`Name of ${name}`}
			className="cut w-full border border-rule bg-paper px-2.5 py-1.5"
			defaultValue={name}
			maxLength={most}
			onFocus={(event) => event.target.select()}
			onBlur={(event) => {
				onName(event.target.value);
				onClose();
			}}
			onKeyDown={(event) => {
				event.stopPropagation();
				if (event.key === 'Escape') {
					event.currentTarget.value = name;
					event.currentTarget.blur();
				}
				if (event.key === 'Enter') event.currentTarget.blur();
			}}
		/>
	);
}
