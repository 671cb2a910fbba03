// Prints the share of test lines among all lines of code.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

const files = execFileSync('git', ['ls-files', '*.ts', '*.tsx', '*.mjs', '*.css', '*.js', '*.cjs'], {
	encoding: 'utf8',
})
	.split('\n')
	.filter(Boolean);
const lines = (file) =>
	readFileSync(file, 'utf8')
		.split('\n')
		.filter((line) => line.trim() !== '').length;
const isTest = (file) => /(^|\/)test\//.test(file) || file.startsWith('e2e/') || /\.(test|spec)\.tsx?$/.test(file);
const total = files.reduce((sum, file) => sum + lines(file), 0);
const tests = files.filter(isTest).reduce((sum, file) => sum + lines(file), 0);
console.log(`tests are ${tests} of ${total} lines of code: ${((100 * tests) / total).toFixed(1)}%`);
