export {
	type Along,
	type AlongLine,
	assignedUvs,
	type CellPlace,
	type CellUser,
	cellOfCorner,
	cellUsers,
	facesUnder,
	regriddedUvs,
} from './uvs.ts';
