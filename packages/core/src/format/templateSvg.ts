import { lineWidths, TEMPLATE_GREY, TEMPLATE_INK, type TemplateDrawing, type TemplateLook } from './template.ts';

const safe = (text: string): string =>
	text.replace(/[<>&"]/g, (sign) => ({ '<': '&lt;', '>': '&gt;', '&': '&amp;', '"': '&quot;' })[sign] as string);
const n = (v: number): string => String(Math.round(v * 100) / 100);

/** Triangles as one path. */
const facesPath = (faces: readonly number[]): string => {
	const out: string[] = [];
	for (let i = 0; i < faces.length; i += 6) {
		const [a, b, c, d, e, f] = faces.slice(i, i + 6).map(n);
		out.push(`M${a} ${b}L${c} ${d}L${e} ${f}Z`);
	}
	return out.join('');
};
const linesPath = (lines: readonly number[]): string => {
	const out: string[] = [];
	for (let i = 0; i < lines.length; i += 4) {
		const [a, b, c, d] = lines.slice(i, i + 4).map(n);
		out.push(`M${a} ${b}L${c} ${d}`);
	}
	return out.join('');
};

/**
 * A template as SVG 1.1: a group of islands, each a path under its part's name, then the lines. Grey beside the islands
 * is all of the sheet, and each island with a clear rim of that many texels is cut out of it.
 */
export function templateSvg(drawing: TemplateDrawing, look: TemplateLook): string {
	const { width, height, islands, scale } = drawing;
	const wide = lineWidths(drawing);
	const fill = (tint: string): string => (look.fill === 'white' ? '#ffffff' : tint);
	const parts = [
		`<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">`,
	];
	if (look.outside !== null) {
		const rim = n(look.outside * 2 * scale);
		parts.push(
			`<mask id="outside"><rect width="100%" height="100%" fill="#fff"/><g fill="#000" stroke="#000" stroke-width="${rim}" stroke-linejoin="round">${islands
				.map(({ faces }) => `<path d="${facesPath(faces)}"/>`)
				.join('')}</g></mask>`,
			`<rect width="100%" height="100%" fill="${TEMPLATE_GREY}" mask="url(#outside)"/>`,
		);
	}
	if (look.fill !== 'none')
		parts.push(
			`<g id="islands">${islands
				.map(
					({ name, tint, faces }) =>
						`<path fill="${fill(tint)}" d="${facesPath(faces)}"><title>${safe(name)}</title></path>`,
				)
				.join('')}</g>`,
		);
	if (look.inner)
		parts.push(
			`<path id="inner" fill="none" stroke="${TEMPLATE_INK}" stroke-opacity="0.55" stroke-width="${n(wide.inner)}" d="${linesPath(drawing.inner)}"/>`,
		);
	if (look.borders)
		parts.push(
			`<path id="borders" fill="none" stroke="${TEMPLATE_INK}" stroke-linecap="square" stroke-width="${n(wide.border)}" d="${linesPath(drawing.borders)}"/>`,
		);
	if (look.names)
		parts.push(
			`<g id="names" fill="${TEMPLATE_INK}" font-family="serif" text-anchor="middle">${islands
				.map(
					({ name, middle: [x, y], letters }) =>
						`<text x="${n(x)}" y="${n(y + letters / 3)}" font-size="${n(letters)}">${safe(name)}</text>`,
				)
				.join('')}</g>`,
		);
	return `${parts.join('\n')}\n</svg>\n`;
}
