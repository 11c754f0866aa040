import { Bridges } from '../../ui/Bridges'
import { Notice } from '../../ui/parts'
import { lines, type Checked as Result } from './model'

const marks: Record<string, { look: string; says: string }> = {
  decodable: { look: 'border-transparent', says: 'can be read' },
  exception: { look: 'border-violet border-solid', says: 'taught exception word' },
  untaught: { look: 'border-brick border-dashed', says: 'not yet taught' },
  ambiguous: { look: 'border-marigold border-dashed', says: 'can be read in two ways, one not yet taught' },
  unknown: { look: 'border-sky border-dotted', says: 'not in the word list; read by rule' },
  name: { look: 'border-sky border-dotted', says: 'a name' },
}

/** A text word by word: bridges under each, and what is in the way. */
export function Checked({ result }: { result: Result }) {
  const untaught = [...new Set(result.words.flatMap((w) => w.untaught))]
  const fresh = result.new_exceptions
  const sentences = result.sentences
  const longest = Math.max(0, ...sentences.map((s) => s.words))
  return (
    <>
      <p role="status" className="text-xl">
        <b>{Math.round(result.decodable * 100)} %</b> of {result.words.length} words can be read.
        {sentences.length > 1 && (
          <span>
            {' '}
            {sentences.length} sentences, the longest has {longest} words.
          </span>
        )}
        {untaught.length > 0 && <span> Not yet taught: {untaught.join(', ')}.</span>}
        {fresh.length > 0 && <span> New exception words: {fresh.join(', ')}.</span>}
      </p>
      {result.remarks.map((r) => (
        <Notice key={r} kind="care">
          {r}
        </Notice>
      ))}
      <div className="flex flex-col gap-4 rounded-xl border-2 border-line bg-sheet p-5">
        {lines(result.words, sentences).map((line, i) => (
          <ol key={i} className="flex flex-wrap items-start gap-x-4 gap-y-5">
            {line.map((w) => (
              <li
                key={w.start}
                data-status={w.status}
                className={`rounded-lg border-3 px-1 text-4xl ${marks[w.status]?.look ?? ''}`}
                title={`${marks[w.status]?.says}${w.untaught.length ? `: ${w.untaught.join(', ')}` : ''}`}
              >
                <Bridges word={w.text} bits={w.bits} />
                {w.status !== 'decodable' && (
                  <span className="block max-w-56 text-sm leading-tight">
                    {marks[w.status]?.says}
                    {w.untaught.length ? `: ${w.untaught.join(', ')}` : ''}
                    {w.comes > 0 ? (
                      <span className="block font-bold">exception word, comes in step {w.comes}</span>
                    ) : null}
                    {w.instead.length ? <span className="block text-leaf">try {w.instead.join(', ')}</span> : null}
                  </span>
                )}
              </li>
            ))}
          </ol>
        ))}
      </div>
    </>
  )
}
