import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter } from 'react-router'
import { watchInput } from './api/send'
import { App } from './app/App'
import { isAway, whileAway } from './app/away'
import { applyTheme } from './app/theme'
import './app.css'

applyTheme()
watchInput(window)
const root = document.getElementById('root')
if (!root) throw new Error('The page has no place for the screens')

const client = new QueryClient({
  defaultOptions: {
    // Without a line as without a server: it is said at once. What waits for a line in silence happens when nobody thinks of it any more.
    mutations: { networkMode: 'always' },
    queries: {
      networkMode: 'always',
      staleTime: 2000,
      // What is wrong stays wrong; only a server that does not answer is asked again.
      retry: (failures, error) => isAway(error) && failures < 3,
      refetchInterval: (query) => whileAway(query.state.error),
    },
  },
})

createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <BrowserRouter>
        <App />
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
)
