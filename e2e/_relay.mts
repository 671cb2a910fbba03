import { openKept } from '@eppu/cli/commands';
import { openSourceStore } from '@eppu/server/store';
import { layAnew, usualArrange } from '@eppu/core/arrange';
const store = openSourceStore('/tmp/look.db');
const engine = await openKept(store as any, 'demo-smoker');
const scene = engine.scene(engine.project.models[0]!.id)!;
const mesh = scene.mesh;
let t=performance.now();
const made = layAnew({mesh, place: scene.topology.place, way:{way:'automatic',less:.5}, faces:[...Array(mesh.indices.length/3).keys()], marks:new Uint8Array(mesh.indices.length), sheetOfPart: scene.model.parts.map(p=>engine.project.sheets.findIndex(s=>s.id===p.sheet)), weightOfPart: scene.model.parts.map(()=>1), sheets: engine.project.sheets, choice: usualArrange});
console.log('anew', Math.round(performance.now()-t), made.sheets);
let n=0;
for (let k=0;k<2;k++){ t=performance.now();
const r = engine.relay({layouts:new Map([[scene.model.id, k?null:{uvs:made.uvs}]])},'x',()=>'zz'+n++);
console.log('relay', Math.round(performance.now()-t), JSON.stringify(r.report));
t=performance.now(); engine.settleAll?.(); for(const s of engine.project.sheets) engine.composite(s.id); console.log('settle', Math.round(performance.now()-t)); }
console.log([...engine.project.sheets].map(s=>s.name+' '+s.width+' '+JSON.stringify(s.layers.map(l=>l.name))));
