import { Link, useParams } from '@tanstack/react-router'
import { useState } from 'react'
import { Failed, Notice, Waiting } from '../../ui/parts'
import { useParcels, type Parcel } from './api'
import { BundleLook } from './BundleLook'
import { TableLook } from './TableLook'

/** Something that was brought in, before any of it is taken. */
export function ParcelPage() {
  const { parcelId } = useParams({ from: '/bring/$parcelId' })
  const list = useParcels()
  // What was just taken is gone from the list; the page still says what came of it.
  const [seen, setSeen] = useState<Parcel>()
  const found = list.data?.find((p) => p.parcel_id === parcelId)
  if (found && seen?.parcel_id !== parcelId) setSeen(found)
  if (list.error && !list.data) return <Failed error={list.error} />
  if (!list.data) return <Waiting what="Untying the string …" />
  const parcel = found ?? (seen?.parcel_id === parcelId ? seen : undefined)
  if (!parcel)
    return (
      <div className="mx-auto max-w-3xl p-6">
        <Notice kind="plain">
          <span className="flex flex-wrap gap-2">
            This was taken, or put away.
            <Link to="/bring" className="font-bold underline underline-offset-4">
              To what comes in and goes out
            </Link>
          </span>
        </Notice>
      </div>
    )
  return parcel.kind === 'bundle' ? (
    <BundleLook key={parcelId} parcel={parcel} />
  ) : (
    <TableLook key={parcelId} parcel={parcel} />
  )
}
