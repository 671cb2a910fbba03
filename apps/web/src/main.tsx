import './styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { Tooltip } from 'radix-ui';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { listenForDrops } from './actions/drops.ts';
import { loadStudio, router } from './app/router.tsx';
import { keepShell } from './app/shell.ts';
import { InsecurePage } from './screens/InsecurePage.tsx';
import { startWorkers } from './studio/workers.ts';
import { HintLayer } from './ui/Hint.tsx';
import { applyTheme } from './ui/theme.ts';

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
const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 5000 } } });

createRoot(document.getElementById('root') as HTMLElement).render(
	<StrictMode>{isSecureContext ? <App /> : <InsecurePage />}</StrictMode>,
);

function App() {
	return (
		<QueryClientProvider client={queries}>
			<Tooltip.Provider delayDuration={450}>
				<RouterProvider router={router} />
				<HintLayer />
				<Toaster position="bottom-center" toastOptions={{ className: 'cut !border-rule !bg-sheet !text-soot' }} />
			</Tooltip.Provider>
		</QueryClientProvider>
	);
}
