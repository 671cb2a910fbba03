import { useStudio } from '../studio/store.ts';

/** Opens a drawer, or shuts it where it is open. */
export const toggleDrawer = (name: string): void =>
	useStudio.setState({ drawer: useStudio.getState().drawer === name ? null : name });
