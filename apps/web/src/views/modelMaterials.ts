import { DoubleSide, LineBasicMaterial, LineDashedMaterial, ShaderMaterial, type Texture } from 'three';

const vertex = `
varying vec2 place;
varying vec3 facing;
varying vec3 at;
void main() {
	place = uv;
	facing = normal;
	at = position;
	gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`;
const fragment = `
uniform sampler2D sheet;
uniform float lit;
uniform float flatFaces;
uniform vec3 toward;
uniform vec3 key;
uniform vec3 sky;
uniform vec3 ground;
uniform vec3 bare;
uniform float whole;
varying vec2 place;
varying vec3 facing;
varying vec3 at;
void main() {
	vec4 paint = texture2D(sheet, place);
	// A texel of a pixel sheet is there or not, as a game shows it.
	if (whole > 0.5 && paint.a < 0.5) discard;
	vec3 color = mix(bare, paint.rgb, paint.a);
	if (lit > 0.5) {
		vec3 n = normalize(flatFaces > 0.5 ? cross(dFdx(at), dFdy(at)) : facing);
		float soft = 0.5 + 0.5 * dot(n, toward);
		color *= mix(ground, sky, 0.5 + 0.5 * n.y) + key * soft * soft;
	}
	gl_FragColor = vec4(color, 1.0);
}`;

/** Lines dark on light paint and light on dark: each point looks at the sheet around it. */
const lineFragment = `
uniform sampler2D sheet;
uniform float opacity;
uniform vec3 bare;
varying vec2 place;
void main() {
	vec4 paint = texture2D(sheet, place, 4.0);
	float tone = dot(mix(bare, paint.rgb, paint.a), vec3(0.3, 0.59, 0.11));
	gl_FragColor = vec4(vec3(tone > 0.46 ? 0.08 : 0.95), opacity);
}`;

const groundFragment = `
varying vec2 place;
void main() {
	float away = length(place - 0.5) * 2.0;
	gl_FragColor = vec4(vec3(0.0), 0.34 * (1.0 - smoothstep(0.35, 1.0, away)));
}`;

/** A part as its sheet is painted. `flat` lights each face by itself; `whole` shows each texel as a square or not at all. */
export const bodyMaterial = (sheet: Texture | undefined, flat: boolean, whole: boolean): ShaderMaterial =>
	new ShaderMaterial({
		vertexShader: vertex,
		fragmentShader: fragment,
		uniforms: {
			sheet: { value: sheet },
			lit: { value: 0 },
			flatFaces: { value: flat ? 1 : 0 },
			toward: { value: [0, 1, 0] },
			key: { value: [0, 0, 0] },
			sky: { value: [1, 1, 1] },
			ground: { value: [1, 1, 1] },
			bare: { value: [0.69, 0.675, 0.643] },
			whole: { value: whole ? 1 : 0 },
		},
		polygonOffset: true,
		polygonOffsetFactor: 1,
		polygonOffsetUnits: 1,
	});

/** Edges of the faces, over what a part is painted with. */
export const wireMaterial = (sheet: Texture | undefined, { uniforms }: ShaderMaterial): ShaderMaterial =>
	new ShaderMaterial({
		vertexShader: vertex,
		fragmentShader: lineFragment,
		uniforms: {
			sheet: { value: sheet },
			opacity: { value: 0.45 },
			bare: uniforms.bare as { value: unknown },
		},
		transparent: true,
	});

/** Seams: a dark line, and dashes over it. `radius` is the model's. */
export const seamMaterials = (radius: number): readonly [LineBasicMaterial, LineDashedMaterial] => [
	new LineBasicMaterial({ color: 0x26231e, transparent: true, opacity: 0.35 }),
	new LineDashedMaterial({ color: 0xf2b04a, dashSize: radius * 0.04, gapSize: radius * 0.018 }),
];

/** The shadow of a ground. */
export const groundMaterial = (): ShaderMaterial =>
	new ShaderMaterial({
		vertexShader: vertex,
		fragmentShader: groundFragment,
		transparent: true,
		depthWrite: false,
		side: DoubleSide,
	});
