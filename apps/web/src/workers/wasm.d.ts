declare module '*.wasm?url&no-inline' {
	const url: string;
	export default url;
}
