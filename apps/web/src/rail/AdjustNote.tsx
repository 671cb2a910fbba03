/** Where the dials of an adjust layer stand. */
export function AdjustNote() {
	return <p className="text-ash">Its dials stand in its row, beside the name.</p>;
}
