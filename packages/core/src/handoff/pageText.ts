import type { Hex } from '../color/index.ts';

/** A sheet as a page shows it; pictures are data addresses. */
export interface PageSheet {
	readonly name: string;
	readonly width: number;
	readonly height: number;
	readonly pixel: boolean;
	readonly picture: string;
	/** Lines of what lies where, of the same size; null where nothing does. */
	readonly template: string | null;
	/** After each of its layers, lowest first. */
	readonly steps: readonly { readonly name: string; readonly picture: string }[];
	readonly small: readonly { readonly side: number; readonly picture: string }[];
}

export interface PageParts {
	readonly title: string;
	readonly words: string;
	readonly models: readonly {
		readonly name: string;
		readonly width: number;
		readonly height: number;
		readonly frames: readonly string[];
	}[];
	readonly sheets: readonly PageSheet[];
	readonly palette: readonly { readonly name: string; readonly colors: readonly Hex[] }[];
}

const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

const style = `
:root{--paper:#f3efe7;--sheet:#fbf9f4;--rule:#d2caba;--soot:#26231e;--ash:#5b564c;--pine:#1f5b4a;--berry:#e9a23b;--view:#777;color-scheme:light dark}
@media(prefers-color-scheme:dark){:root{--paper:#1d1b18;--sheet:#282520;--rule:#4a453c;--soot:#ece6da;--ash:#b3ab9c;--pine:#5fae94;--berry:#e9a23b}}
*{box-sizing:border-box}[hidden]{display:none!important}body{margin:0;background:var(--paper);color:var(--soot);font:16px/1.5 system-ui,sans-serif;font-variant-numeric:tabular-nums}
main{max-width:1120px;margin:0 auto;padding:clamp(16px,4vw,48px)}h1{font-size:clamp(26px,5vw,44px);line-height:1.1;margin:0}h2{font-size:22px;margin:56px 0 12px}h3{font-size:16px;margin:24px 0 8px}
p{margin:6px 0;color:var(--ash);max-width:60ch}figure{margin:0}figcaption{color:var(--ash);font-size:13px;margin-top:4px}
.turn{background:var(--view);border-radius:11px 8px 12px 7px;overflow:hidden;touch-action:pan-y;cursor:grab;user-select:none;position:relative}.turn:active{cursor:grabbing}
.turn img{display:block;width:100%;height:auto;max-height:76vh;object-fit:contain;pointer-events:none}.turn:focus-visible,input:focus-visible{outline:3px solid var(--berry);outline-offset:2px}
.models{display:grid;gap:20px;grid-template-columns:repeat(auto-fit,minmax(min(100%,420px),1fr));margin-top:28px}
.sheet{display:grid;gap:24px;grid-template-columns:minmax(0,1.2fr) minmax(0,1fr);align-items:start}@media(max-width:760px){.sheet{grid-template-columns:minmax(0,1fr)}}
.over{position:relative;background:repeating-conic-gradient(#8a8a8a 0 25%,#777 0 50%) 0 0/20px 20px;border-radius:9px 8px 10px 7px;overflow:hidden}
.over img{display:block;width:100%;height:auto}.over img+img,.over .cut{position:absolute;inset:0;height:100%}.over .cut img{position:absolute;inset:0;height:100%;object-fit:fill}
.over .line{position:absolute;top:0;bottom:0;width:3px;background:var(--berry);margin-left:-1px;pointer-events:none}.px img{image-rendering:pixelated}
label{display:flex;gap:10px;align-items:center;margin-top:8px;font-size:14px}input[type=range]{flex:1;accent-color:var(--pine);min-width:0}input[type=checkbox]{accent-color:var(--pine)}select{font:inherit;max-width:100%;background:var(--sheet);color:inherit;border:1px solid var(--rule);border-radius:7px 8px 6px 8px;padding:2px 6px}
.small{display:flex;flex-wrap:wrap;gap:14px;align-items:end}.small img{display:block;background:var(--view)}
.ramp{display:flex;margin:4px 0;border-radius:8px 9px 7px 9px;overflow:hidden}.ramp i{flex:1;height:34px}.ramps{display:grid;gap:4px 18px;grid-template-columns:repeat(auto-fit,minmax(min(100%,260px),1fr))}
`;

/** What a page does; the same on every page, so that it can be let in by its hash where one is looked at. */
export const pageScript = `
for (const turn of document.querySelectorAll('.turn')) {
	const frames = JSON.parse(document.getElementById(turn.dataset.frames).textContent);
	const image = turn.querySelector('img');
	let at = 0, from = null;
	const show = (next) => { at = next; image.src = frames[((Math.round(at) % frames.length) + frames.length) % frames.length]; turn.setAttribute('aria-valuenow', String(Math.round((((at % frames.length) + frames.length) % frames.length) * 360 / frames.length))); };
	turn.addEventListener('pointerdown', (event) => { from = [event.clientX, at]; turn.setPointerCapture(event.pointerId); });
	turn.addEventListener('pointermove', (event) => { if (from) show(from[1] - (event.clientX - from[0]) / turn.clientWidth * frames.length); });
	for (const end of ['pointerup', 'pointercancel']) turn.addEventListener(end, () => { from = null; });
	turn.addEventListener('keydown', (event) => { const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key]; if (by) { event.preventDefault(); show(Math.round(at) + by); } });
}
for (const view of document.querySelectorAll('.build')) {
	const steps = JSON.parse(document.getElementById(view.dataset.steps).textContent);
	const [cut, line, before] = ['.cut', '.line', '.cut img'].map((name) => view.querySelector(name));
	const [slide, choose] = [view.querySelector('input'), view.querySelector('select')];
	const show = () => { cut.style.clipPath = 'inset(0 ' + (100 - slide.value) + '% 0 0)'; line.style.left = slide.value + '%'; before.src = steps[choose.value]; };
	slide.addEventListener('input', show); choose.addEventListener('change', show); show();
}
for (const tick of document.querySelectorAll('[data-lines]')) {
	const lines = document.getElementById(tick.dataset.lines);
	const show = () => { lines.hidden = !tick.checked; };
	tick.addEventListener('change', show); show();
}
`;

/** JSON within a page: nothing in it ends its element. */
const dataOf = (id: string, value: unknown): string =>
	`<script type="application/json" id="${id}">${JSON.stringify(value).replaceAll('<', '\\u003c')}</script>`;

const modelText = ({ name, frames, width, height }: PageParts['models'][number], i: number): string =>
	`<figure><div class="turn" tabindex="0" role="slider" aria-label="${escaped(name)}, turned" aria-valuemin="0" aria-valuemax="359" aria-valuenow="0" data-frames="turn${i}"><img src="${frames[0]}" width="${width}" height="${height}" alt="${escaped(name)}" draggable="false"></div><figcaption>${escaped(name)}: drag to turn it</figcaption>${dataOf(`turn${i}`, frames)}</figure>`;

function sheetText(sheet: PageSheet, i: number): string {
	const { name, width, height, pixel, picture, template, steps, small } = sheet;
	const title = escaped(name);
	const kind = pixel ? ' px' : '';
	const lines = template
		? `<img id="lines${i}" src="${template}" alt="" hidden></div><label><input type="checkbox" data-lines="lines${i}"> What lies where</label>`
		: '</div>';
	const build =
		steps.length > 1
			? `<figure><div class="build" data-steps="steps${i}"><div class="over${kind}"><img src="${picture}" alt="${title}, finished"><div class="cut"><img src="${steps[0]?.picture}" alt="${title}, before"></div><div class="line"></div></div><label>Before <input type="range" min="0" max="100" value="50" aria-label="Before and after of ${title}"> after</label><label>Before is after <select aria-label="Layers of ${title} so far">${steps.map((step, n) => `<option value="${n}"${n === Math.floor((steps.length - 1) / 2) ? ' selected' : ''}>${n + 1} of ${steps.length}: ${escaped(step.name)}</option>`).join('')}</select></label></div>${dataOf(
					`steps${i}`,
					steps.map((step) => step.picture),
				)}</figure>`
			: '';
	const sizes = small.length
		? `<h3>At small sizes</h3><div class="small${kind}">${small.map(({ side, picture: each }) => `<figure><img src="${each}" alt="${title} at ${side} px"><figcaption>${side} px</figcaption></figure>`).join('')}</div>`
		: '';
	return `<section><h2>${title}</h2><div class="sheet"><figure><div class="over${kind}"><img src="${picture}" alt="${title}">${lines}<figcaption>${width} × ${height} texels</figcaption></figure><div>${build}${sizes}</div></div></section>`;
}

/** A page as one HTML text that needs nothing from elsewhere, and by its own rules takes nothing. */
export function pageText({ title, words, models, sheets, palette }: PageParts): string {
	const ramps = palette
		.map(
			({ name, colors }) =>
				`<div><div class="ramp">${colors.map((color) => `<i style="background:${color}" title="${color}"></i>`).join('')}</div><figcaption>${escaped(name)}</figcaption></div>`,
		)
		.join('');
	return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; img-src data:; style-src 'unsafe-inline'; script-src 'unsafe-inline'">
<title>${escaped(title)}</title>
<style>${style}</style>
</head>
<body>
<main>
<h1>${escaped(title)}</h1>
${words ? `<p>${escaped(words)}</p>` : ''}
${models.length ? `<div class="models">${models.map(modelText).join('')}</div>` : ''}
${sheets.map(sheetText).join('\n')}
<section><h2>Palette</h2><div class="ramps">${ramps}</div></section>
</main>
<script>${pageScript}</script>
</body>
</html>
`;
}
