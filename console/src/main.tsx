import '@fontsource/atkinson-hyperlegible-mono/latin-400.css'
import '@fontsource/atkinson-hyperlegible-mono/latin-700.css'
import '@fontsource/atkinson-hyperlegible-next/latin-400.css'
import '@fontsource/atkinson-hyperlegible-next/latin-700.css'
import '@mantine/core/styles/baseline.css'
import '@mantine/core/styles/default-css-variables.css'
import '@mantine/core/styles/global.css'
import '@mantine/core/styles/FloatingIndicator.css'
import '@mantine/core/styles/Input.css'
import '@mantine/core/styles/InlineInput.css'
import '@mantine/core/styles/SegmentedControl.css'
import '@mantine/core/styles/UnstyledButton.css'
import './tokens.css'
import './base.css'
import { MantineProvider } from '@mantine/core'
import { QueryClientProvider } from '@tanstack/react-query'
import { RouterProvider } from '@tanstack/react-router'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { Problem, seat } from './api/client'
import { FreshClient } from './api/fresh'
import { sessionQuery } from './api/me'
import { keepAnswers, restoreKept } from './away/kept'
import { router } from './routes'
import { cssVariables, theme } from './theme'

const queries = new FreshClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      retry: (count, error) => !(error instanceof Problem) && count < 2,
      // What the browser believes of the network holds nothing up: whoever asks is answered, or told that it failed.
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
})
// What was seen once in a day opens without a network.
queries.setQueryDefaults(['order'], { gcTime: 12 * 60 * 60_000 })

// Vite writes the page's nonce into this tag; styles made at run time must carry it.
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce

// Where the disk is slow or broken, the page does not wait for it.
const patience = new Promise((done) => setTimeout(done, 400))
await Promise.race([restoreKept(queries).catch(() => {}), patience])
seat(queries.getQueryData(sessionQuery.queryKey)?.person?.id ?? null)
keepAnswers(queries)

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <MantineProvider
      theme={theme}
      cssVariablesResolver={cssVariables}
      getStyleNonce={() => nonce ?? ''}
      defaultColorScheme="auto"
    >
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
)
