export {
	type Along,
	type AlongLine,
	assignedUvs,
	type CellPlace,
	type CellUser,
	cellOfCorner,
	cellUsers,
	regriddedUvs,
} from './uvs.ts';
