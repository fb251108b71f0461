import {
  createRootRoute,
  createRoute,
  createRouter,
  lazyRouteComponent,
  Link,
  Outlet,
} from '@tanstack/react-router'
import { Board } from './board/Board'
import { shownOf } from './board/parts'
import { Door } from './people/Door'
import { Shell } from './shell/Shell'

const root = createRootRoute({ component: Outlet, notFoundComponent: NotFound })
const shell = createRoute({
  getParentRoute: () => root,
  id: 'shell',
  component: () => (
    <Door>
      <Shell />
    </Door>
  ),
})

const board = createRoute({
  getParentRoute: () => shell,
  path: '/',
  component: Board,
  validateSearch: shownOf,
})
const takeIn = createRoute({
  getParentRoute: () => shell,
  path: '/take-in',
  component: lazyRouteComponent(() => import('./order/TakeIn'), 'TakeIn'),
})
const batch = createRoute({
  getParentRoute: () => shell,
  path: '/batches/$batch',
  component: lazyRouteComponent(() => import('./batch/BatchPage'), 'BatchPage'),
})
const batchRun = createRoute({
  getParentRoute: () => shell,
  path: '/batches/$batch/run',
  component: lazyRouteComponent(() => import('./batch/BatchRun'), 'BatchRun'),
})
const order = createRoute({
  getParentRoute: () => shell,
  path: '/orders/$number',
  component: lazyRouteComponent(() => import('./order/OrderPage'), 'OrderPage'),
})
const check = createRoute({
  getParentRoute: () => shell,
  path: '/orders/$number/check',
  component: lazyRouteComponent(() => import('./order/CheckPage'), 'CheckPage'),
})
const plan = createRoute({
  getParentRoute: () => shell,
  path: '/orders/$number/plan',
  component: lazyRouteComponent(() => import('./plan/PlanPage'), 'PlanPage'),
})
const parts = createRoute({
  getParentRoute: () => shell,
  path: '/parts',
  component: lazyRouteComponent(() => import('./stock/PartsPage'), 'PartsPage'),
})
const people = createRoute({
  getParentRoute: () => shell,
  path: '/people',
  component: lazyRouteComponent(() => import('./people/PeoplePage'), 'PeoplePage'),
})
const store = createRoute({
  getParentRoute: () => shell,
  path: '/store',
  component: lazyRouteComponent(() => import('./store/StorePage'), 'StorePage'),
})
const notices = createRoute({
  getParentRoute: () => shell,
  path: '/notices',
  component: lazyRouteComponent(() => import('./people/Notices'), 'NoticesPage'),
})
const invoices = createRoute({
  getParentRoute: () => shell,
  path: '/invoices',
  component: lazyRouteComponent(() => import('./invoice/Invoices'), 'Invoices'),
})
const kept = createRoute({
  getParentRoute: () => shell,
  path: '/kept',
  component: lazyRouteComponent(() => import('./away/KeptPage'), 'KeptPage'),
})
const dummies = createRoute({
  getParentRoute: () => shell,
  path: '/dummies',
  component: lazyRouteComponent(() => import('./dummies/Dummies'), 'Dummies'),
})
const guides = createRoute({
  getParentRoute: () => shell,
  path: '/guides',
  component: lazyRouteComponent(() => import('./guides/Guides'), 'Guides'),
})
const guide = createRoute({
  getParentRoute: () => shell,
  path: '/guides/$code',
  component: lazyRouteComponent(() => import('./guides/GuidePage'), 'GuidePage'),
})
const guideEdit = createRoute({
  getParentRoute: () => shell,
  path: '/guides/$code/edit',
  component: lazyRouteComponent(() => import('./guides/GuideEditor'), 'GuideEditor'),
})
const guideCompare = createRoute({
  getParentRoute: () => shell,
  path: '/guides/$code/compare',
  validateSearch: (search: Record<string, unknown>): { from?: string; to?: string } => ({
    from: search.from === undefined ? undefined : String(search.from as string),
    to: search.to === undefined ? undefined : String(search.to as string),
  }),
  component: lazyRouteComponent(() => import('./guides/GuideCompare'), 'GuideCompare'),
})
// The run has the screen to itself.
const run = createRoute({
  getParentRoute: () => root,
  path: '/orders/$number/run',
  component: lazyRouteComponent(() => import('./run/RunPage'), 'RunPage'),
})

// The customer comes here by a link, and sees nothing else of the shop.
const quote = createRoute({
  getParentRoute: () => root,
  path: '/quote/$link',
  component: lazyRouteComponent(() => import('./plan/CustomerPage'), 'CustomerPage'),
})

const report = createRoute({
  getParentRoute: () => root,
  path: '/report/$link',
  component: lazyRouteComponent(() => import('./report/CustomerReport'), 'CustomerReport'),
})

// Whoever holds a report's paper or its file looks here whether it is what the shop signed.
const proof = createRoute({
  getParentRoute: () => root,
  path: '/proof',
  component: lazyRouteComponent(() => import('./report/ProofPage'), 'ProofPage'),
})
const proofOf = createRoute({
  getParentRoute: () => root,
  path: '/proof/$id',
  component: lazyRouteComponent(() => import('./report/ProofPage'), 'ProofOf'),
})

// Whoever has a set-up link is not signed in yet.
const setUp = createRoute({
  getParentRoute: () => root,
  path: '/set-up',
  component: lazyRouteComponent(() => import('./people/SetUp'), 'SetUp'),
})

// Opened on the screen that becomes a bench tablet, where nobody need be signed in.
const tablet = createRoute({
  getParentRoute: () => root,
  path: '/tablet',
  component: lazyRouteComponent(() => import('./people/EnrolTablet'), 'EnrolTablet'),
})

export const router = createRouter({
  routeTree: root.addChildren([
    shell.addChildren([
      board,
      takeIn,
      batch,
      batchRun,
      order,
      check,
      plan,
      parts,
      dummies,
      guides,
      guide,
      guideEdit,
      guideCompare,
      people,
      store,
      notices,
      invoices,
      kept,
    ]),
    run,
    quote,
    report,
    proof,
    proofOf,
    setUp,
    tablet,
  ]),
})

declare module '@tanstack/react-router' {
  interface Register {
    router: typeof router
  }
}

function NotFound() {
  return (
    <main className="page stack">
      <h1>No such page</h1>
      <p>
        <Link to="/">To the board</Link>
      </p>
    </main>
  )
}
