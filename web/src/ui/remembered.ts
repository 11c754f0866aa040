/** What this browser remembers under a name; nothing where it may not keep anything. */
export function recall(name: string): string | null {
  try {
    return localStorage.getItem(name)
  } catch {
    return null
  }
}

/** Remembers a text, or forgets it where it is undefined; where storage is full or forbidden it is let go. */
export function remember(name: string, text: string | undefined) {
  try {
    if (text === undefined) localStorage.removeItem(name)
    else localStorage.setItem(name, text)
  } catch {
    // it holds as long as the page is open
  }
}

/** What was remembered as JSON; undefined where there is nothing, or something else. */
export function recallAs<T>(name: string): T | undefined {
  try {
    return JSON.parse(recall(name) ?? '') as T
  } catch {
    return undefined
  }
}

/** Every name that begins so under which something is remembered. */
export function remembered(prefix: string): string[] {
  try {
    return Object.keys(localStorage).filter((name) => name.startsWith(prefix))
  } catch {
    return []
  }
}
