import { QueryClientProvider } from '@tanstack/react-query'
import { RouterProvider } from '@tanstack/react-router'
import { setNonce } from 'get-nonce'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { queryClient } from './api/client'
import { fetchEarly } from './api/shared'
import { startOffline } from './api/offline'
import { router } from './app/router'
import './styles.css'

setNonce(document.querySelector<HTMLMetaElement>('meta[name=csp-nonce]')?.content ?? '')

fetchEarly()
startOffline()

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
)
