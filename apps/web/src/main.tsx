import './styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { Tooltip } from 'radix-ui';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { listenForDrops } from './actions/drops.ts';
import { createPages, loadStudio } from './app/router.tsx';
import { keepShell } from './app/shell.ts';
import { InsecurePage } from './screens/InsecurePage.tsx';
import { startWorkers } from './studio/workers.ts';
import { HintLayer } from './ui/Hint.tsx';
import { applyTheme } from './ui/theme.ts';

function begin(): void {
	// At the address of a project all that works on it is fetched beside what shows it.
	const [, asked] = /^\/project\/([^/]+)/.exec(location.pathname) ?? [];
	if (isSecureContext && asked) {
		startWorkers();
		void loadStudio();
		void import('./studio/session.ts').then(({ openProject }) => openProject(decodeURIComponent(asked)));
	}
	applyTheme();
	keepShell();
	listenForDrops((on) => document.documentElement.toggleAttribute('data-over', on));
	createRoot(document.getElementById('root') as HTMLElement).render(
		<StrictMode>{isSecureContext ? <App pages={createPages()} /> : <InsecurePage />}</StrictMode>,
	);
}

// Not in the module's own frame: a request tells where it was made, and the place in a frame so large takes long to find.
queueMicrotask(begin);

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 5000 } } });

function App({ pages }: { readonly pages: ReturnType<typeof createPages> }) {
	return (
		<QueryClientProvider client={queries}>
			<Tooltip.Provider delayDuration={450}>
				<RouterProvider router={pages} />
				<HintLayer />
				<Toaster position="bottom-center" toastOptions={{ className: 'cut !border-rule !bg-sheet !text-soot' }} />
			</Tooltip.Provider>
		</QueryClientProvider>
	);
}
