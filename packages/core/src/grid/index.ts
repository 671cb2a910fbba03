export {
	type Along,
	assignedUvs,
	type CellPlace,
	type CellUser,
	cellOfCorner,
	cellUsers,
	regriddedUvs,
} from './uvs.ts';
