import { ref, watch } from 'vue'
import { api, told, type Sockets } from '../../api/client'
import { useBench } from '../bench/useBench'
import { useStage } from './useStage'

/** The sockets of the open ticket's set with the parts at their pins, and their drawings. */
export function useSockets() {
  const bench = useBench()
  const stage = useStage((id) => told(api.GET('/api/tickets/{id}/sockets', { params: { path: { id } } })))
  // What hangs where follows the parts, and the volts the chart.
  watch([() => bench.ticket.value?.parts, bench.charted], () => void stage.fetch(), { deep: 1 })
  const all = ref<Sockets | null>(null)
  void told(api.GET('/api/sockets')).then(
    (got) => (all.value = got),
    () => undefined,
  )
  /** A type's drawing from below. */
  function drawings(type: string | null) {
    const valve = all.value?.valves.find((v) => v.type === type) ?? null
    const base = all.value?.bases.find((b) => b.base === valve?.base)
    return base ? { base, valve } : null
  }
  return { ...stage, drawings }
}
