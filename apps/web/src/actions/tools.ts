import { useStudio } from '../studio/store.ts';

export const setTool = (tool: string): void => useStudio.setState({ tool });
