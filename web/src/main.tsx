import { QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { App } from './App'
import { openStore } from './offline/store'
import { watchScreens } from './offline/version'
import { newQueries } from './queries/api'
import './theme.css'

const queries = newQueries()

const root = document.getElementById('root')
if (!root) throw new Error('The page has no root element')
watchScreens()
await openStore()
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <App />
    </QueryClientProvider>
  </StrictMode>,
)
