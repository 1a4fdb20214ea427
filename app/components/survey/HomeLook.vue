<script setup lang="ts">
import { housingKinds, housingWords } from '../../../core/site'

/** What kind of home it is: homes of one builder and kind are wired alike, and a supply may be none that this tool proves. */
const { site, page, asker, submitSite } = injectJobRecord()
const { t } = useTrade()
const { refusal, inTurn } = useAction()
const home = computed(() => site.value!.home)
const kinds = housingKinds.map((value) => ({ value, label: housingWords[value] }))
const builder = ref(home.value.builder)
watch(
  () => home.value.builder,
  (said) => (builder.value = said),
)
const describe = (facts: object) => inTurn(() => submitSite({ type: 'describeHome', ...facts }))
const neutral = computed(() => (home.value.neutralEarthed === null ? undefined : home.value.neutralEarthed ? 'yes' : 'no'))
const alike = computed(() => page.value?.site.alike ?? null)
</script>

<template>
  <section class="stack" aria-label="The home">
    <CommonToggles spoken="Kind of home" :items="kinds" :chosen="home.housing ?? undefined" @choose="describe({ housing: $event })" />
    <UFormField label="Built by" help="Homes of one builder are wired alike: what was found there is counted here."
      ><UInput v-model="builder" maxlength="80" placeholder="not known" @change="describe({ builder: builder.trim() })"
    /></UFormField>
    <p v-if="alike" class="soft small" data-testid="alike">
      {{ alike.neutrals }} of {{ counted(alike.opened, 'opened box', 'opened boxes') }} had a neutral in
      {{ counted(alike.homes, 'home') }} of this {{ alike.by }}.
    </p>
    <div>
      <p class="kicker">{{ t('Is its neutral tied to {ground}?') }}</p>
      <CommonToggles
        :spoken="t('Neutral tied to {ground}')"
        :items="[
          { value: 'yes', label: 'yes, as usual' },
          { value: 'no', label: 'no: both conductors are live' },
        ]"
        :chosen="neutral"
        @choose="describe({ neutralEarthed: $event === 'yes' })"
      />
      <p v-if="home.neutralEarthed === false" class="note amber small">
        {{
          t(
            'Both conductors are live to {ground}. The dead test of this tool does not cover that: nothing is proven here by it, both poles are switched off, and the licensed lead works by their own procedure. Only devices that break both conductors can be chosen.',
          )
        }}
        {{ asker.licensed ? '' : 'A licensed person corrects it if it is a mistake.' }}
      </p>
    </div>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>
