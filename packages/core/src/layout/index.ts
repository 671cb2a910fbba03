export { type Layout, layOut, layoutOf } from './layout.ts';
