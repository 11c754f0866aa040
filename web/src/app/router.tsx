import { createRootRoute, createRoute, createRouter, lazyRouteComponent, redirect } from '@tanstack/react-router'
import { NothingHere } from './NothingHere'
import { WallPage } from '../features/wall/WallPage'
import { Shell } from './Shell'

const root = createRootRoute({
  component: Shell,
  notFoundComponent: NothingHere,
})
const wall = createRoute({ getParentRoute: () => root, path: '/', component: WallPage })
const card = createRoute({
  getParentRoute: () => root,
  path: '/cards/$cardId',
  component: lazyRouteComponent(() => import('../features/card/CardPage'), 'CardPage'),
})
const review = createRoute({
  getParentRoute: () => root,
  path: '/cards/$cardId/review',
  component: lazyRouteComponent(() => import('../features/review/ReviewPage'), 'ReviewPage'),
})
const today = createRoute({
  getParentRoute: () => root,
  path: '/today',
  component: lazyRouteComponent(() => import('../features/today/TodayPage'), 'TodayPage'),
})
const audit = createRoute({
  getParentRoute: () => root,
  path: '/audit',
  component: lazyRouteComponent(() => import('../features/audit/AuditPage'), 'AuditPage'),
})
const bring = createRoute({
  getParentRoute: () => root,
  path: '/bring',
  component: lazyRouteComponent(() => import('../features/bring/BringPage'), 'BringPage'),
})
const stock = createRoute({
  getParentRoute: () => root,
  path: '/stock',
  component: lazyRouteComponent(() => import('../features/stock/StockPage'), 'StockPage'),
})
const parcel = createRoute({
  getParentRoute: () => root,
  path: '/bring/$parcelId',
  component: lazyRouteComponent(() => import('../features/bring/ParcelPage'), 'ParcelPage'),
})
const lessons = createRoute({
  getParentRoute: () => root,
  path: '/lessons',
  validateSearch: (s: Record<string, unknown>): { card?: string } => s,
  component: lazyRouteComponent(() => import('../features/lessons/LessonsPage'), 'LessonsPage'),
})
const lesson = createRoute({
  getParentRoute: () => root,
  path: '/lessons/$lessonId',
  validateSearch: (s: Record<string, unknown>): { step?: string } => s,
  component: lazyRouteComponent(() => import('../features/lessons/ScorePage'), 'ScorePage'),
})
// Addresses that were kept before lessons had purposes.
const oldList = createRoute({
  getParentRoute: () => root,
  path: '/introductions',
  beforeLoad: () => {
    throw redirect({ to: '/lessons' })
  },
})
const oldOne = createRoute({
  getParentRoute: () => root,
  path: '/introductions/$lessonId',
  beforeLoad: ({ params }) => {
    throw redirect({ to: '/lessons/$lessonId', params })
  },
})
const klass = createRoute({
  getParentRoute: () => root,
  path: '/classes/$classId',
  component: lazyRouteComponent(() => import('../features/classes/ClassPage'), 'ClassPage'),
})
const teach = createRoute({
  getParentRoute: () => root,
  path: '/teach/$lessonId',
  validateSearch: (s: Record<string, unknown>): { log?: boolean; face?: 'board' | 'desk' } => ({
    ...(s.log ? { log: true } : {}),
    ...(s.face === 'board' || s.face === 'desk' ? { face: s.face } : {}),
  }),
  component: lazyRouteComponent(() => import('../features/teach/TeachPage'), 'TeachPage'),
})
const join = createRoute({
  getParentRoute: () => root,
  path: '/join',
  component: lazyRouteComponent(() => import('../features/teach/JoinPage'), 'JoinPage'),
})
const welcome = createRoute({
  getParentRoute: () => root,
  path: '/welcome',
  component: lazyRouteComponent(() => import('../features/signin/WelcomePage'), 'WelcomePage'),
})
const comeIn = createRoute({
  getParentRoute: () => root,
  path: '/come-in',
  component: lazyRouteComponent(() => import('../features/signin/ComeInPage'), 'ComeInPage'),
})
const plan = createRoute({
  getParentRoute: () => root,
  path: '/plan',
  component: lazyRouteComponent(() => import('../features/plan/PlanPage'), 'PlanPage'),
})
const order = createRoute({
  getParentRoute: () => root,
  path: '/order',
  component: lazyRouteComponent(() => import('../features/order/OrderPage'), 'OrderPage'),
})
const meeting = createRoute({
  getParentRoute: () => root,
  path: '/meeting',
  component: lazyRouteComponent(() => import('../features/meeting/MeetingPage'), 'MeetingPage'),
})
const words = createRoute({
  getParentRoute: () => root,
  path: '/words',
  component: lazyRouteComponent(() => import('../features/words/WordsPage'), 'WordsPage'),
})
const texts = createRoute({
  getParentRoute: () => root,
  path: '/texts',
  component: lazyRouteComponent(() => import('../features/texts/TextsPage'), 'TextsPage'),
})
const letters = createRoute({
  getParentRoute: () => root,
  path: '/letters',
  validateSearch: (s: Record<string, unknown>): { text?: string } =>
    s.text === undefined ? {} : { text: String(s.text) },
  component: lazyRouteComponent(() => import('../features/letters/LettersPage'), 'LettersPage'),
})
const booth = createRoute({
  getParentRoute: () => root,
  path: '/booth',
  validateSearch: (s: Record<string, unknown>): { card?: string } => s,
  component: lazyRouteComponent(() => import('../features/booth/BoothPage'), 'BoothPage'),
})
const team = createRoute({
  getParentRoute: () => root,
  path: '/team',
  component: lazyRouteComponent(() => import('../features/team/TeamPage'), 'TeamPage'),
})

export const router = createRouter({
  routeTree: root.addChildren([
    wall,
    today,
    card,
    review,
    audit,
    bring,
    parcel,
    stock,
    lessons,
    lesson,
    oldList,
    oldOne,
    klass,
    teach,
    join,
    welcome,
    comeIn,
    plan,
    order,
    meeting,
    words,
    texts,
    letters,
    booth,
    team,
  ]),
})

declare module '@tanstack/react-router' {
  interface Register {
    router: typeof router
  }
}
