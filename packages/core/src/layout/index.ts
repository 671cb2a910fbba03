export { bytesOfLayout, type Layout, layOut, layoutOf, layoutOfBytes } from './layout.ts';
