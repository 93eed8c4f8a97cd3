import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter } from 'react-router'
import { Refused } from '@/api'
import { App } from './app/App'
import { applyTheme } from './app/theme'
import { keepPages } from './app/offline'
import './styles.css'

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // A network that is gone is tried again; a no is final.
      retry: (count, error) => !(error instanceof Refused) && count < 2,
      refetchOnWindowFocus: true,
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
})

// The server has a newer version, and the file that this page asks for is gone: the page as it is now.
window.addEventListener('vite:preloadError', () => {
  window.location.reload()
})

applyTheme()
keepPages()
const root = document.getElementById('root')
if (!root) throw new Error('the page has no root')
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <App />
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
)
