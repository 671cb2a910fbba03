import { type Desk, emptyDesk, type Id } from '@eppu/core/document';
import type { Keeping } from '../keeping.ts';
import type { ExchangeTold, ShownModel } from '../told.ts';

/** Which project is open, and how its keeping stands. */
export interface Session {
	readonly status: 'closed' | 'opening' | 'open' | 'failed' | 'elsewhere';
	readonly failure: { readonly text: string; readonly why: 'gone' | 'away' | 'broken' } | null;
	/** The open project goes on under this id: the address has to follow. */
	readonly movedTo: Id | null;
	readonly keeping: Keeping;
	readonly models: readonly ShownModel[];
	readonly desk: Desk;
	/** What is out at another editor; null where that is not known. */
	readonly exchange: ExchangeTold | null;
}

export const session: Session = {
	status: 'closed',
	failure: null,
	movedTo: null,
	keeping: { state: 'kept', at: 0 },
	models: [],
	desk: emptyDesk,
	exchange: null,
};
