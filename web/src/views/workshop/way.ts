import type { InstrumentBody } from '../../api/client'

type Sent = InstrumentBody['ways'][number]
/** A way of measuring as it is typed: its ranges are there, even where there are none. */
export type Way = Sent & { ranges: NonNullable<Sent['ranges']> }
