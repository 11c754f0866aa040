import { CallError, type Problem } from './client'

/** Sends a file or another body that the typed client does not know. */
export async function send<T>(method: string, path: string, body?: BodyInit, type?: string): Promise<T> {
  let answer: Response
  try {
    answer = await fetch(`/api${path}`, { method, body, headers: type ? { 'Content-Type': type } : {} })
  } catch {
    throw new CallError(0, {})
  }
  const json: unknown = await answer.json().catch(() => ({}))
  if (!answer.ok) throw new CallError(answer.status, json as Partial<Problem>)
  return json as T
}
