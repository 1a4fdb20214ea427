<script setup lang="ts">
import { boxesOfJob, pointsInOrder, pointStatus } from '../../../core/job'
import type { BoxState } from '../../../core/site'
import type { GangMark } from './BoxPlate.vue'

/** The home as a walk: rooms along a wall line with their doors, boxes as plates on the wall. */
const selected = defineModel<string | null>({ required: true })
const { job, site, changes } = injectJobRecord()

const rooms = computed(() => {
  if (!job.value || !site.value) return []
  const boxes = boxesOfJob(job.value, site.value)
  return site.value.roomOrder.flatMap((id) => {
    const inRoom = boxes.filter((box) => box.roomId === id)
    return inRoom.length ? [{ id, name: site.value!.rooms[id]!.name, boxes: inRoom, ...countOf(id) }] : []
  })
})
function countOf(roomId: string) {
  const points = pointsInOrder(job.value!).filter((point) => point.roomId === roomId)
  return {
    points: points.length,
    passed: points.filter((point) => pointStatus(job.value!, site.value!, point) === 'passed').length,
    mustRun: points.some((point) => point.mustRun),
  }
}
function marks(box: BoxState): GangMark[] {
  return Array.from({ length: box.gangs }, (_, index) => {
    const point = pointsInOrder(job.value!).find((candidate) =>
      candidate.controls.some((control) => control.boxId === box.id && control.gang === index + 1),
    )
    if (!point) return 'empty'
    const status = pointStatus(job.value!, site.value!, point)
    return box.closure === 'opened' && status === 'untested' ? 'working' : status
  })
}
const numbers = (box: BoxState) => (box.unknownFeed || !box.breakerIds.length ? ['?'] : box.breakerIds.map((id) => markOf(site.value!, id)))
</script>

<template>
  <div class="walk">
    <section v-for="room in rooms" :key="room.id" class="room">
      <h3>
        <b>{{ room.name }}</b>
        <span class="soft">{{ room.mustRun ? 'must run' : room.points ? `${room.passed} of ${room.points}` : '–' }}</span>
      </h3>
      <div class="boxes">
        <HomeBoxPlate
          v-for="box in room.boxes"
          :key="box.id"
          :box="box"
          :changed-by="changes.findLast((one) => one.boxId === box.id)?.initials"
          :marks="marks(box)"
          :breakers="numbers(box)"
          :selected="selected === box.id"
          @pick="selected = box.id"
        />
      </div>
    </section>
  </div>
</template>

<style scoped>
.walk {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  row-gap: 10px;
  margin-top: 18px;
  overflow: hidden;
}
.room {
  position: relative;
  border-top: 3px solid var(--ink);
  padding: 12px 14px 18px;
  min-height: 160px;
}
.room::after {
  content: '';
  position: absolute;
  left: 0;
  top: 0;
  bottom: 0;
  border-left: 1px solid var(--line);
}
.room::before {
  content: '';
  position: absolute;
  top: -3px;
  left: 18px;
  width: 34px;
  height: 3px;
  background: var(--paper);
}
.boxes {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin-top: 8px;
}
@media (max-width: 760px) {
  .walk {
    grid-template-columns: 1fr 1fr;
  }
  .room {
    padding: 10px 8px 14px;
    min-height: 0;
  }
}
@media (max-width: 420px) {
  .walk {
    grid-template-columns: 1fr;
  }
}
</style>
