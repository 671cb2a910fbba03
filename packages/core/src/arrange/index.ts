export {
	type AnewLayout,
	type AnewRequest,
	type ArrangeChoice,
	LayoutError,
	layAllAnew,
	layAnew,
	usualArrange,
} from './anew.ts';
export { type Arranged, type ArrangeOptions, arrange, coveredArea, type Loose } from './arrange.ts';
export { runsOf } from './cells.ts';
export { type Joining, joiningAt } from './joining.ts';
export { stackAlike } from './stack.ts';
