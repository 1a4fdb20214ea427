import type { AutomatedHome } from '../../core/automation/home'
import type { SensorKind } from '../../core/automation/words'

/** Devices and sensors of a home as one chooses among them. */
export function useAutomationItems(home: () => AutomatedHome) {
  const item = ({ id, name, room }: { id: string; name: string; room?: string }) => ({
    value: id,
    label: room && !name.toLowerCase().includes(room.toLowerCase()) ? `${name} · ${room}` : name,
  })
  return {
    devices: computed(() => home().devices.map(item)),
    of: (kind: SensorKind) =>
      home()
        .sensors.filter((sensor) => sensor.kind === kind)
        .map(item),
  }
}
