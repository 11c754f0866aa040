/** Where the one document of all pages is kept. */
export const shell = '/shell'

/** Seconds that a slow line is waited for before what is kept is shown. */
export const patience = 4

/** Which calls are kept: what reads the wall, cards, classes and lessons; and pictures and sounds, which never change. */
export const kinds = {
  read: /^\/api\/(session|vocabulary|days|cards|cards\/[0-9a-f-]{36}(\/takes|\/versions|\/mouth)?|classes|classes\/[0-9a-f-]{36}|lessons|lessons\/[0-9a-f-]{36}|letters|routines|sounds)$/,
  fixed: /^\/api\/(pictures\/.+|word-pictures\/.+|cards\/[0-9a-f-]{36}\/sound)$/,
}
