export { checkMesh } from './check.ts';
export { type SharpEdge, sharpEdges } from './edges.ts';
export { readGlb } from './glb.ts';
export { contentsOfGlb, type GlbContents, packGltf } from './gltf.ts';
export {
	type LaidMesh,
	layingNowhere,
	type Mesh,
	type MeshError,
	type MeshResult,
	MOST_FACES,
	meshBounds,
	type Part,
	partOfFace,
	partOfFaces,
} from './mesh.ts';
export { faceNormals } from './normals.ts';
export { readObj } from './obj.ts';
export { planeCut } from './planeCut.ts';
export { readPly } from './ply.ts';
export { isFigureName, isModelName, MOST_MODEL_BYTES, modelEndings, readModel } from './read.ts';
export { type FlatPlace, sharesOf } from './shares.ts';
export { oriented, partsOf } from './subset.ts';
export { tangentsOf } from './tangents.ts';
export { type EdgeSide, nextCorner, type Seam, type Topology, topologyOf } from './topology.ts';
export { figureMesh, posedMesh } from './worn.ts';
export {
	type Look,
	type Looks,
	type NamedFile,
	writeGlb,
	writeGlbBeside,
	writeGltfFiles,
	writeObj,
	writeObjFiles,
	writePly,
} from './write.ts';
