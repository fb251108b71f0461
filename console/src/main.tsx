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
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { RouterProvider } from '@tanstack/react-router'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { Problem } from './api/client'
import { router } from './routes'
import { cssVariables, theme } from './theme'

const queries = new QueryClient({
  defaultOptions: {
    queries: { staleTime: 5_000, retry: (count, error) => !(error instanceof Problem) && count < 2 },
  },
})

// Vite writes the page's nonce into this tag; styles made at run time must carry it.
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce

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
