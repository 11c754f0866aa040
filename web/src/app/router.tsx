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
    card,
    lessons,
    lesson,
    oldList,
    oldOne,
    klass,
    teach,
    join,
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
