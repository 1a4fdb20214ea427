<script setup lang="ts">
import type { Present } from '../../../core/protocol'

/** Who is here, and where: by their visit and what they did here. Whoever only has the page open is not here. */
const props = defineProps<{ present: Present[] }>()
const { site, job, region } = injectJobRecord()
const { t } = useTrade()
const session = useSession()
const lines = computed(() =>
  props.present.flatMap((one) => {
    const person = session.person(one.personId)
    if (!person || one.personId === session.viewer?.personId) return []
    const onVisit = Object.values(job.value?.visits ?? {}).some(
      (visit) => (visit.status === 'planned' || visit.status === 'onSite') && visit.personIds.includes(one.personId),
    )
    const leftAt = site.value?.people[one.personId]?.leftAt
    const here = site.value?.onSite[one.personId] !== undefined || (onVisit && !leftAt)
    const where = !here
      ? leftAt
        ? `left at ${clockTime(leftAt, region.value)}`
        : 'watching, not here'
      : one.place === 'panel'
        ? t('at the {panel}')
        : one.place === 'walk'
          ? 'here'
          : `at ${site.value?.boxes[one.place.slice(4)]?.name ?? 'a box'}`
    return [
      {
        ...one,
        initials: person.initials,
        name: person.name,
        where: one.connected ? where : `last heard ${clockTime(one.seenAt, region.value)}, ${where}`,
      },
    ]
  }),
)
</script>

<template>
  <p v-if="lines.length" class="crew small" aria-label="Crew at this site" data-testid="crew">
    <span v-for="line in lines" :key="line.personId" :class="{ soft: !line.connected }" :title="line.name"
      ><span class="who" :class="{ gone: !line.connected }">{{ line.initials }}</span> {{ line.where }}</span
    >
  </p>
</template>

<style scoped>
.crew {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
.crew > span {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.gone {
  border-style: dashed;
}
</style>
