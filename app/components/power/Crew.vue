<script setup lang="ts">
import type { Present } from '../../../server/services/presence'

/** Who is here, and where. */
const props = defineProps<{ present: Present[] }>()
const { site, zone } = injectJobRecord()
const session = useSession()
const lines = computed(() =>
  props.present.flatMap((one) => {
    const person = session.person(one.personId)
    if (!person || one.personId === session.viewer?.personId) return []
    const where =
      one.place === 'panel'
        ? 'at the panel'
        : one.place === 'walk'
          ? 'here'
          : `at ${site.value?.boxes[one.place.slice(4)]?.name ?? 'a box'}`
    return [
      {
        ...one,
        initials: person.initials,
        name: person.name,
        where: one.connected ? where : `last heard ${clockTime(one.seenAt, zone.value)}, ${where}`,
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
