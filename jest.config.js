const swc = [
	'<rootDir>/scripts/jest-transform.mjs',
	{
		jsc: {
			target: 'es2022',
			parser: { syntax: 'typescript', tsx: true },
			transform: { react: { runtime: 'automatic' } },
			experimental: { keepImportAttributes: true },
		},
		module: { type: 'es6' },
		sourceMaps: 'inline',
	},
];

/** @type {import('jest').Config} */
export default {
	maxWorkers: '100%',
	testEnvironment: 'node',
	extensionsToTreatAsEsm: ['.ts', '.tsx'],
	transform: { '^.+\\.tsx?$': swc },
	testMatch: [
		'<rootDir>/packages/*/test/**/*.test.ts',
		'<rootDir>/apps/{server,cli,web}/test/**/*.test.{ts,tsx}',
		'<rootDir>/demo/test/**/*.test.ts',
	],
	// The long run tries each property thousands of times.
	testTimeout: process.env.LONG ? 1_800_000 : 60_000,
};
