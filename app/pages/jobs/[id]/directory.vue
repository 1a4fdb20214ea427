<script setup lang="ts">
import { directoryOf, type Known } from '../../../../core/site'

/** What each breaker of the home feeds, and how well that is known. Kept with the site, for later jobs too. */
const { page, job, site } = injectJobRecord()
const { t } = useTrade()
const directory = computed(() => (site.value ? directoryOf(site.value) : null))
const panels = computed(() => [...new Set(directory.value?.lines.map((line) => line.panel) ?? [])])
const counts = computed(() => {
  const all = directory.value?.lines.flatMap((line) => line.serves) ?? []
  return {
    all: all.length,
    confirmed: all.filter((one) => one.known === 'confirmed').length,
    unknown: directory.value?.unknown.length ?? 0,
  }
})
const sentence = computed(() => {
  const { all, confirmed, unknown } = counts.value
  const rest = unknown ? ` ${unknown === 1 ? 'One box has' : `${unknown} boxes have`} no known feed.` : ''
  return all === 0 ? t(`No {breaker} is tied to a box yet.${rest}`) : `${confirmed} of ${all} feeds confirmed.${rest}`
})
const marks: Record<Known, string> = { confirmed: '●', seen: '◐', 'as found': '○' }
const href = (format: string) => `/api/sites/${page.value?.job.siteId}/directory?format=${format}`
useHead({ title: () => (page.value ? `${t('{Panel} directory')} · ${page.value.site.name}` : t('{Panel} directory')) })
</script>

<template>
  <div v-if="site && job && directory" class="directory">
    <header>
      <h1 class="sentence mb-1" data-testid="directory-sentence">{{ sentence }}</h1>
      <p class="soft small">
        {{
          t(
            '● confirmed: seen by opening {breakers}, right even if one look was wrong. ◐ seen once. ○ as found: a label, or somebody’s word. It helps to find {a breaker} and never proves a box dead.',
          )
        }}
      </p>
    </header>
    <div class="row wrap">
      <UButton :to="`/jobs/${job.jobId}/tracing`" variant="solid">Find what feeds what</UButton>
      <UButton :href="href('pdf')" external data-paper target="_blank" icon="i-lucide-file-text">{{
        t('PDF for the {panel} door')
      }}</UButton>
      <UButton :href="href('csv')" external icon="i-lucide-table">CSV</UButton>
    </div>
    <section v-for="panel in panels" :key="panel" :aria-label="panel || t('{Panel}')">
      <h2 class="kicker">{{ panel || t('{Panel}') }}</h2>
      <div class="scroll" tabindex="0" role="region" :aria-label="t(`{Breakers} of ${panel || 'the {panel}'}`)">
        <table>
          <thead>
            <tr>
              <th scope="col">{{ t('{Breaker}') }}</th>
              <th scope="col">Label as found</th>
              <th scope="col">Feeds</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="line in directory.lines.filter((one) => one.panel === panel)" :key="line.breakerId">
              <th scope="row">
                <span class="mono no">{{ line.number }}</span><br /><span class="soft small"
                  >{{ line.amps ? `${line.amps} A` : '' }}{{ line.poles > 1 ? ` · ${line.poles}-pole` : '' }}</span
                >
              </th>
              <td>
                {{ line.labelAsFound || '(no label)' }}<br v-if="line.offLimits" /><b v-if="line.offLimits" class="bad small"
                  >do not open: {{ line.offLimits }}</b
                >
              </td>
              <td>
                <ul>
                  <li v-for="one in line.serves" :key="one.boxId">
                    <span aria-hidden="true">{{ marks[one.known] }}</span> {{ one.room }}: {{ one.box
                    }}<span class="soft small"> · {{ one.known }}{{ one.shared ? ', shared' : '' }}</span>
                  </li>
                </ul>
                <span v-if="!line.serves.length" class="soft small">{{ line.role === 'branch' ? 'no box of ours' : t('{a panel}') }}</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
    <section v-if="directory.unknown.length" aria-label="Feed not known">
      <h2 class="kicker">Feed not known</h2>
      <ul>
        <li v-for="one in directory.unknown" :key="one.boxId">
          {{ one.room }}: {{ one.box }}{{ one.elsewhere ? t(': none of these {breakers}, look for another {panel}') : '' }}
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.directory {
  max-width: 900px;
  margin: 0 auto;
  padding: 16px 22px 96px;
  display: grid;
  gap: 18px;
}
.scroll {
  overflow-x: auto;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 9px 14px 9px 0;
  border-bottom: 1px solid var(--line);
}
thead th {
  font-weight: 500;
  color: var(--soft);
  font-size: 13.5px;
}
.no {
  font-size: 20px;
  font-weight: 700;
}
@media (max-width: 560px) {
  .directory {
    padding: 12px 14px 96px;
  }
}
</style>
