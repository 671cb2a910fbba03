import { defineConfig } from '@playwright/test';

export default defineConfig({
	testDir: '.',
	outputDir: './test-results/runs',
	fullyParallel: false,
	// Files run beside each other, tests of one file one after the other.
	workers: 2,
	timeout: 180_000,
	reporter: 'list',
	// Killing servers by the clock on a busy machine: a second try is shown as flaky, not hidden.
	retries: process.env.CI ? 1 : 0,
	globalSetup: './seed.ts',
	testIgnore: process.env.SHOTS ? [] : ['shots.spec.ts'],
	use: {
		viewport: { width: 1280, height: 800 },
		launchOptions: {
			executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
			args: [
				'--no-sandbox',
				'--disable-gpu',
				'--enable-unsafe-swiftshader',
				'--disable-quic',
				'--no-first-run',
				'--disable-background-networking',
				'--disable-component-update',
				'--disable-sync',
			],
		},
	},
});
