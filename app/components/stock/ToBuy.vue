<script setup lang="ts">
import { currencyOf, moneyIn } from '../../../core/money'
import { dateIn } from '../../../core/units'
import type { ReorderLine } from '../../../core/protocol'

/** What to buy, where, by when and for which jobs. */
const session = useSession()
const branch = computed(() => session.branch!)
const region = computed(() => session.regionAt(branch.value.id))
const currency = computed(() => currencyOf(branch.value.settings.money, branch.value.schemeId))
const lines = useReorder()
const orderProblem = ref<Problem | null>(null)
async function order(line: ReorderLine) {
  const answer = await api('POST /api/stock/purchases', {
    body: {
      id: newId(),
      branchId: branch.value.id,
      articleId: line.articleId,
      supplier: line.supplier ?? 'not named',
      quantity: line.quantity,
      costCents: line.costCents,
      dueOn: line.arrivesOn ?? new Date().toISOString().slice(0, 10),
    },
  })
  orderProblem.value = answer.ok ? null : answer.problem
}
const money = (cents: number) => moneyIn(cents, currency.value, region.value.locale)
const day = (date: string | null) => (date ? dateIn(date, region.value.locale) : 'no day yet')
</script>

<template>
  <section v-if="lines.length" aria-labelledby="buy-title" class="mt-6">
    <div class="row wrap">
      <h2 id="buy-title" class="next-title grow">To buy</h2>
      <UButton :to="`/api/stock/reorder?branchId=${branch.id}&as=csv`" external variant="link">Purchase list, CSV</UButton>
    </div>
    <CommonProblem :problem="orderProblem" />
    <table class="plain">
      <thead>
        <tr>
          <th>Article</th>
          <th>Here, kept back, coming</th>
          <th>Buy</th>
          <th>Wanted on</th>
          <th>For</th>
          <th><span class="sr-only">What can be done</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in lines" :key="line.articleId" :data-testid="`buy-${line.name}`">
          <td>
            <b>{{ line.name }}</b><span v-if="line.safety" class="soft small block">{{ line.safety }} kept against the spread of use</span
            ><span v-if="line.instead" class="soft small block"
              >instead of {{ line.instead.of.map(({ name, quantity }) => `${quantity} × ${name}`).join(' and ')
              }}{{
                line.instead.savesCents === null
                  ? ': singly they are not had in time'
                  : `, which singly cost ${money(line.instead.savesCents)} more`
              }}</span
            >
          </td>
          <td class="mono">{{ line.instead ? '' : `${line.onHand}, ${line.reserved}, ${line.ordered}` }}</td>
          <td>
            <template v-if="line.quantity"
              ><b class="mono">{{ line.quantity }}</b> {{ line.supplier ? `at ${line.supplier}` : 'nobody sells it by the list'
              }}<span class="soft small block"
                >{{ money(line.costCents) }}, here {{ day(line.arrivesOn)
                }}{{ line.inKits ? `; ${line.inKits} more in the kit` : '' }}</span
              ></template
            ><template v-else>{{ line.inKits ? 'comes in the kit' : 'is on its way' }}</template>
          </td>
          <td>
            {{ line.jobs.length ? day(line.neededOn) : 'for the shelf'
            }}<span v-if="line.late" class="bad small block"><b>comes too late: move the visit</b></span>
          </td>
          <td>
            <NuxtLink v-for="job in line.jobs" :key="job.id" :to="`/jobs/${job.id}`" class="block underline"
              >{{ job.number }} · {{ job.title }}, {{ job.short }} short</NuxtLink
            >
          </td>
          <td>
            <UButton
              v-if="line.quantity && line.supplier"
              variant="link"
              class="p-0"
              :aria-label="`${line.name} is ordered`"
              @click="order(line)"
              >Ordered</UButton
            >
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
