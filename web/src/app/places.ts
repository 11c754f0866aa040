/** The pages that are one press away from everywhere. */
export const places = [
  { to: '/today', name: 'Today' },
  { to: '/', name: 'Library' },
  { to: '/lessons', name: 'Lessons' },
  { to: '/plan', name: 'Plan' },
  { to: '/words', name: 'Words' },
  { to: '/texts', name: 'Texts' },
  { to: '/letters', name: 'Letters' },
  { to: '/booth', name: 'Booth' },
  { to: '/team', name: 'Team' },
] as const
