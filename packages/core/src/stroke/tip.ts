/** What a stroke is made with. */
export interface Tip {
	/** Diameter: texels on a sheet, px on the model. 1..1000. */
	readonly size: number;
	/** 0..1 */
	readonly strength: number;
	/** 0 soft to the middle .. 1 hard. */
	readonly edge: number;
	/** Distance between dabs as a share of the diameter, 0.02..2. */
	readonly spacing: number;
	/** Dabs add up; else the stroke is capped at its strength however often it crosses itself. */
	readonly buildUp: boolean;
	/** How much the pen's pressure rules the size, 0..1. */
	readonly pressureSize: number;
	/** How much the pen's pressure rules the strength, 0..1. */
	readonly pressureStrength: number;
}

export const defaultTip: Tip = {
	size: 46,
	strength: 0.8,
	edge: 0.6,
	spacing: 0.1,
	buildUp: false,
	pressureSize: 0.6,
	pressureStrength: 0.4,
};

/** Share of a dial at a pressure: 1 - rule at no pressure, rising to 1 at full. */
export const underPressure = (rule: number, pressure: number): number => 1 - rule + rule * pressure;
