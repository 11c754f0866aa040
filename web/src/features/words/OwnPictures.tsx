import { useState } from 'react'
import { mayI, useMe } from '../../api/shared'
import { Button, Field, FileButton, Input, Notice } from '../../ui/parts'
import { useArchivePicture, useOwnPictures, usePutPicture } from './api'

/** The team's own pictures: with their names they take part in every ear game. */
export function OwnPictures() {
  const me = useMe()
  const list = useOwnPictures()
  const put = usePutPicture()
  const archive = useArchivePicture()
  const [file, setFile] = useState<File>()
  const [name, setName] = useState('')
  const [others, setOthers] = useState('')
  const [gone, setGone] = useState<string[]>([])
  const edits = mayI(me.data?.rights, 'edit')
  const add = () =>
    file &&
    put.mutate(
      {
        file,
        name,
        others: others
          .split(',')
          .map((o) => o.trim())
          .filter(Boolean),
      },
      {
        onSuccess: () => {
          setFile(undefined)
          setName('')
          setOthers('')
        },
      },
    )
  return (
    <section aria-label="Our own pictures" className="flex flex-col gap-3 border-t-2 border-line pt-4">
      <h2 className="text-lg font-bold">Our own pictures</h2>
      {list.data?.length === 0 && (
        <Notice>None yet. A photo or a drawing with its name joins the games at once.</Notice>
      )}
      <ul className="flex flex-wrap gap-3">
        {list.data?.map((p) => (
          <li key={p.name} className="flex w-36 flex-col items-center gap-1 rounded-lg border border-line bg-sheet p-2">
            <img src={`/api/pictures/${p.picture}`} alt="" className="size-20 object-contain" />
            <span className="font-child text-xl">{p.name}</span>
            {p.others.length ? <span className="text-sm text-soft">also {p.others.join(', ')}</span> : null}
            {edits && (
              <Button
                look="quiet"
                aria-label={`Take ${p.name} away`}
                onClick={() =>
                  archive.mutate({ name: p.name, archived: true }, { onSuccess: () => setGone([...gone, p.name]) })
                }
              >
                take away
              </Button>
            )}
          </li>
        ))}
      </ul>
      {gone.length > 0 && (
        <p role="status" className="flex flex-wrap items-center gap-2">
          Taken away:
          {gone.map((n) => (
            <Button
              key={n}
              look="quiet"
              onClick={() =>
                archive.mutate({ name: n, archived: false }, { onSuccess: () => setGone(gone.filter((x) => x !== n)) })
              }
            >
              {n}: put back
            </Button>
          ))}
        </p>
      )}
      {edits && (
        <form
          className="grid max-w-4xl in-row gap-3 md:grid-cols-[1fr_10rem_1fr_auto]"
          onSubmit={(e) => {
            e.preventDefault()
            add()
          }}
        >
          <Field label="Picture">
            {(ids) => (
              <FileButton {...ids} accept="image/svg+xml,image/png,image/jpeg" onFile={setFile} className="min-w-0">
                <span className="truncate">{file ? file.name : 'Choose a picture'}</span>
              </FileButton>
            )}
          </Field>
          <Field label="Name">
            {(ids) => (
              <Input
                {...ids}
                value={name}
                maxLength={24}
                placeholder="one word"
                onChange={(e) => setName(e.target.value)}
                className="font-child"
              />
            )}
          </Field>
          <Field label="Other names that children give it">
            {(ids) => (
              <Input
                {...ids}
                value={others}
                maxLength={160}
                placeholder="parted by commas"
                onChange={(e) => setOthers(e.target.value)}
                className="font-child"
              />
            )}
          </Field>
          <Button type="submit" look="main" disabled={!file || !name || put.isPending}>
            Add
          </Button>
        </form>
      )}
      {put.error && <Notice kind="wrong">{put.error.message}</Notice>}
      {put.isSuccess && <Notice kind="good">✓ It takes part in the games now.</Notice>}
    </section>
  )
}
