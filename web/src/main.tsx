import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { App } from './App'
import { NoConnection, Refusal } from './api/client'
import './theme.css'

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      refetchOnWindowFocus: false,
      // With no connection a question is still asked: the answer kept on the device is given.
      networkMode: 'always',
      retry: (tries, error) => !(error instanceof Refusal) && error instanceof NoConnection && tries < 2,
    },
    // A change is tried at once: one that waited for the connection would be lost with the page.
    mutations: { networkMode: 'always' },
  },
})

const root = document.getElementById('root')
if (!root) throw new Error('The page has no root element')
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <App />
    </QueryClientProvider>
  </StrictMode>,
)
