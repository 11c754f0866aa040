import { recallAs, remember } from '../remembered'
import type { RoomReport } from './api'

/** The course of a check: silence, then a word when the lamp lights, then silence again; milliseconds. */
export const roomCourse = { silence: 2300, word: 1200, rest: 1600 }

/** What is kept in this browser of the last check with a voice that went well. */
export type KeptRoom = { deviceId: string; label: string; at: number; report: RoomReport }

const place = 'bright-chalk.rooms'
const most = 20

const all = (): Record<string, KeptRoom> => recallAs<Record<string, KeptRoom> | null>(place) ?? {}

export const keptRoom = (speaker: string): KeptRoom | undefined => all()[speaker.trim()]

export function keepRoom(speaker: string, room: KeptRoom) {
  const rooms = Object.entries({ ...all(), [speaker.trim()]: room }).sort(([, a], [, b]) => b.at - a.at)
  remember(place, JSON.stringify(Object.fromEntries(rooms.slice(0, most))))
}

/** A check holds for the day: rooms and cables change. */
export const holdsToday = (room: KeptRoom | undefined, now: Date): room is KeptRoom =>
  Boolean(room?.report.ready && new Date(room.at).toDateString() === now.toDateString())

export type Line = { name: string; mark: string; text: string; advice?: string }

const states = { good: '✓', fix: '~', retake: '×' }

/** Each thing that was measured, in words, with what to do about it. */
export function roomLines(r: RoomReport): Line[] {
  const line = (name: string, codes: string[], text: string): Line => {
    const f = r.findings.find((x) => codes.includes(x.code))
    return {
      name,
      mark: states[f ? (f.severity as 'fix' | 'retake') : 'good'],
      text,
      ...(f ? { advice: f.message } : {}),
    }
  }
  const n = (v: number) => v.toFixed(0)
  return [
    line('Noise', ['noisy', 'swelling'], `the word stands ${n(r.snr_db)} dB over it`),
    line('Loudness', ['clipped', 'margin', 'quiet'], `${n(-r.peak_dbfs)} dB under the top`),
    line('Mains hum', ['hum'], r.mains_hum_db > 6 ? `${n(r.mains_hum_db)} dB over the rest` : 'none'),
    line('Highest sounds', ['narrow-band'], `heard up to ${(r.band_hz / 1000).toFixed(0)} kHz`),
    line('Echo', ['echo'], r.echo_ms ? `gone in ${(r.echo_ms / 1000).toFixed(1)} s` : 'none to speak of'),
    line('Steady loudness', ['pumping'], r.pump_db > 3 ? `moves by ${n(r.pump_db)} dB` : 'it stays as it is'),
  ]
}

const nothing = ['no-sound', 'spoken-early', 'spoken-late']

/** Why nothing could be measured, where that is so. */
export const nothingHeard = (r: RoomReport) => r.findings.find((f) => nothing.includes(f.code))?.message
