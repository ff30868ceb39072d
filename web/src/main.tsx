import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource/saira-condensed/latin-500.css';
import '@fontsource/saira-condensed/latin-600.css';
import { CssBaseline, ThemeProvider } from '@mui/material';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Route, Routes } from 'react-router';
import { JobPage } from './JobPage';
import { JobsScreen } from './jobs/JobsScreen';
import './main.css';
import { theme } from './theme';

const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce;
const styles = createCache({ key: 'nook', ...(nonce ? { nonce } : {}) });
// The server is on this machine or beside it: what a browser says of being online tells nothing of it.
const queries = new QueryClient({
  defaultOptions: {
    queries: { retry: 1, refetchOnWindowFocus: false, networkMode: 'always' },
    mutations: { networkMode: 'always' },
  },
});

const root = document.getElementById('root');
if (!root) throw new Error('index.html has no root');
createRoot(root).render(
  <StrictMode>
    <CacheProvider value={styles}>
      <ThemeProvider theme={theme}>
        <CssBaseline />
        <QueryClientProvider client={queries}>
          <BrowserRouter>
            <Routes>
              <Route path='/' element={<JobsScreen />} />
              <Route path='/jobs/:id' element={<JobPage page='rack' />} />
              <Route path='/jobs/:id/bay' element={<JobPage page='bay' />} />
              <Route path='/jobs/:id/log' element={<JobPage page='log' />} />
              <Route path='/jobs/:id/stock' element={<JobPage page='stock' />} />
              <Route path='/jobs/:id/stock/:stick/cards' element={<JobPage page='stick' />} />
              <Route path='/jobs/:id/runs/:run/:step' element={<JobPage page='run' />} />
            </Routes>
          </BrowserRouter>
        </QueryClientProvider>
      </ThemeProvider>
    </CacheProvider>
  </StrictMode>,
);
