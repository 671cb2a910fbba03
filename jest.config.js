const swc = [
	'<rootDir>/scripts/jest-transform.mjs',
	{
		jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true } },
		module: { type: 'es6' },
		sourceMaps: 'inline',
	},
];

/** @type {import('jest').Config} */
export default {
	testEnvironment: 'node',
	extensionsToTreatAsEsm: ['.ts'],
	transform: { '^.+\\.tsx?$': swc },
	testMatch: [
		'<rootDir>/packages/*/test/**/*.test.ts',
		'<rootDir>/apps/{server,cli}/test/**/*.test.ts',
		'<rootDir>/demo/test/**/*.test.ts',
	],
	testTimeout: 60_000,
};
