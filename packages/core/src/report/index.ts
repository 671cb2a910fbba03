export { type FaceMeasures, measureFaces, type ReportGround } from './ground.ts';
export type { Finding, FindingKind } from './kind.ts';
export type { PartMeasures } from './parts.ts';
export { findingKinds, type MeshReport, reportOf } from './report.ts';
