// Who may import whom. The rooms of core stand in their order: a room imports only rooms before it.
const rooms = [
	'shape',
	'color',
	'surface',
	'raster',
	'tone',
	'composite',
	'mesh',
	'bvh',
	'bake',
	'regions',
	'layout',
	'unwrap',
	'arrange',
	'solid',
	'atlas',
	'report',
	'projection',
	'stroke',
	'select',
	'text',
	'wash',
	'recipe',
	'light',
	'finish',
	'document',
	'scene',
	'carry',
	'derive',
	'jobs',
	'edit',
	'engine',
	'format',
];

// The web's folders: what each may import of the others.
const web = {
	ui: [],
	studio: ['ui'],
	server: ['studio', 'ui'],
	actions: ['studio', 'server', 'ui'],
	input: ['studio', 'actions', 'tools'],
	tools: ['studio', 'actions', 'bench', 'ui'],
	stack: ['studio', 'actions', 'server', 'input', 'ui'],
	bench: ['studio', 'actions', 'server', 'input', 'tools', 'stack', 'ui'],
	rail: ['studio', 'actions', 'server', 'input', 'stack', 'ui'],
	views: ['studio', 'actions', 'server', 'input', 'tools', 'ui'],
};
const webRules = Object.entries(web).map(([folder, may]) => ({
	name: `web-${folder}`,
	severity: 'error',
	from: { path: `^apps/web/src/${folder}/` },
	to: { path: '^apps/web/src/', pathNot: `^apps/web/src/(${[folder, ...may, 'workers'].join('|')})/` },
}));

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
	forbidden: [
		{
			name: 'core-is-pure',
			severity: 'error',
			from: { path: '^packages/(core|kernels)/src' },
			to: { path: '^apps/|node_modules/(react|react-dom|three|express|drizzle-orm)(/|$)' },
		},
		{
			name: 'core-no-node-builtins',
			severity: 'error',
			from: { path: '^packages/core/src' },
			to: { dependencyTypes: ['core'] },
		},
		...rooms.map((room, i) => ({
			name: `${room}-imports-downwards`,
			severity: 'error',
			from: { path: `^packages/core/src/${room}/` },
			to: { path: `^packages/core/src/(${rooms.slice(i + 1).join('|') || 'nothing-above'})/` },
		})),
		{
			name: 'rooms-by-their-door',
			comment: 'another room is imported by its index',
			severity: 'error',
			from: { path: '^packages/core/src/([^/]+)/' },
			to: { path: '^packages/core/src/([^/]+)/', pathNot: '^packages/core/src/($1/|[^/]+/index\\.ts$)' },
		},
		{ name: 'web-not-server', severity: 'error', from: { path: '^apps/web' }, to: { path: '^apps/(server|cli)' } },
		{ name: 'server-not-web', severity: 'error', from: { path: '^apps/(server|cli)' }, to: { path: '^apps/web' } },
		...webRules,
		{
			name: 'interface-not-workers',
			comment: 'the interface and its workers meet in the protocol only',
			severity: 'error',
			from: { path: '^apps/web/src/(?!workers/)' },
			to: { path: '^apps/web/src/workers/', dependencyTypesNot: ['type-only'] },
		},
		{
			name: 'resolvable',
			severity: 'error',
			from: {},
			to: {
				couldNotResolve: true,
				pathNot: '[?](url|worker|raw|no-inline)|^better-sqlite3$|^@phosphor-icons/|^@fontsource',
			},
		},
		{ name: 'no-circular', severity: 'error', from: {}, to: { circular: true } },
	],
	options: {
		doNotFollow: { path: 'node_modules' },
		exclude: { path: '^(apps|packages)/[^/]+/(dist|drizzle)/' },
		tsPreCompilationDeps: true,
		tsConfig: { fileName: 'tsconfig.base.json' },
		combinedDependencies: true,
		enhancedResolveOptions: {
			exportsFields: ['exports'],
			conditionNames: ['import', 'node', 'default'],
			extensions: ['.ts', '.tsx', '.js', '.mjs', '.json'],
		},
	},
};
