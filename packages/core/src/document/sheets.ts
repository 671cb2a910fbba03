/** A bleed that suits a sheet: 1/128 of its larger side, 4 at the least. */
export const usualBleed = (width: number, height: number): number =>
	Math.min(32, Math.max(4, Math.round(Math.max(width, height) / 128)));
