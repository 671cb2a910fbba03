import { CaretDownIcon } from '@phosphor-icons/react/dist/csr/CaretDown';
import { CheckIcon } from '@phosphor-icons/react/dist/csr/Check';
import { Select as Radix } from 'radix-ui';
import { Fragment, type SyntheticEvent, useRef, useState } from 'react';
import { Ghost } from './Ghost.tsx';

type Option<T extends string> = readonly [value: T, words: string];

const stop = (event: SyntheticEvent): void => event.stopPropagation();

/** One of several words, chosen from a list that opens; `options` or, where they fall into kinds, `kinds` of them. */
export function Select<T extends string>({
	label,
	value,
	options = [],
	kinds = [],
	onChange,
	empty = 'Choose…',
	look = 'box',
	title,
}: {
	readonly label: string;
	/** None of the options, '' as a rule: nothing is chosen yet. */
	readonly value: T | '';
	readonly options?: readonly Option<T>[];
	readonly kinds?: readonly (readonly [title: string, options: readonly Option<T>[]])[];
	readonly onChange: (value: T) => void;
	/** Said where nothing is chosen. */
	readonly empty?: string;
	/** `word`: only the word, with dots under it, for rows of other things. */
	readonly look?: 'box' | 'word';
	readonly title?: string;
}) {
	const all = [['', options] as const, ...kinds].filter(([, list]) => list.length > 0);
	const known = all.flatMap(([, list]) => list).find(([each]) => each === value);
	// A list that is shut is not there: a stack of layers has hundreds of words in such.
	const [open, setOpen] = useState(false);
	const button = useRef<HTMLButtonElement>(null);
	return (
		<>
			<button
				ref={button}
				type="button"
				role="combobox"
				aria-label={label}
				aria-haspopup="listbox"
				aria-expanded={open}
				title={title}
				onClick={() => setOpen(true)}
				onKeyDown={(event) => {
					if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
					event.preventDefault();
					event.stopPropagation();
					setOpen(true);
				}}
				className={`cut-small flex min-w-0 items-center gap-1 text-left ${look === 'box' ? 'w-full border border-rule bg-sheet px-1.5 py-0.5 hover:bg-bark' : 'max-w-full shrink-0 underline decoration-dotted decoration-ash/70 underline-offset-2 hover:bg-soot/10 hover:decoration-solid'}`}
			>
				<span className="min-w-0 truncate">{known?.[1] ?? empty}</span>
				{look === 'box' && <CaretDownIcon size={11} className="ml-auto shrink-0" />}
			</button>
			{open && button.current && (
				<Radix.Root
					open
					value={known ? value : ''}
					onValueChange={(next) => onChange(next as T)}
					onOpenChange={setOpen}
				>
					<Radix.Trigger asChild>
						<Ghost of={button.current} />
					</Radix.Trigger>
					<Radix.Portal>
						<Radix.Content
							position="popper"
							sideOffset={3}
							collisionPadding={8}
							onPointerDown={stop}
							onPointerMove={stop}
							onPointerUp={stop}
							onKeyDown={stop}
							onCloseAutoFocus={(event) => {
								event.preventDefault();
								button.current?.focus();
							}}
							className="cut z-50 max-h-[min(70vh,var(--radix-select-content-available-height))] min-w-[var(--radix-select-trigger-width)] overflow-hidden border border-rule bg-sheet text-[13px] text-soot shadow-lg"
						>
							<Radix.Viewport className="p-1">
								{all.map(([kind, list], i) => (
									<Fragment key={kind}>
										{i > 0 && <Radix.Separator className="mx-1 my-1 h-px bg-rule" />}
										<Radix.Group>
											{kind && <Radix.Label className="px-2 text-[11px] leading-4 text-ash">{kind}</Radix.Label>}
											{list.map(([each, words]) => (
												<Radix.Item
													key={each}
													value={each}
													className="cut-small flex cursor-pointer items-center gap-2 px-2 py-0.5 outline-none data-[highlighted]:bg-bark"
												>
													<Radix.ItemText>{words}</Radix.ItemText>
													<Radix.ItemIndicator className="ml-auto">
														<CheckIcon size={11} weight="bold" />
													</Radix.ItemIndicator>
												</Radix.Item>
											))}
										</Radix.Group>
									</Fragment>
								))}
							</Radix.Viewport>
						</Radix.Content>
					</Radix.Portal>
				</Radix.Root>
			)}
		</>
	);
}
