<script setup lang="ts">
const session = useSession()
const route = useRoute()
const { now } = useNow()
const paletteOpen = ref(false)
const sheetOpen = ref(false)
const loginsOpen = ref(false)
// Loaded at first use: most phones never open them.
const wantedOnceOpen = (open: Ref<boolean>) => {
  const wanted = ref(false)
  watch(open, (is) => {
    if (is) wanted.value = true
  })
  return wanted
}
const paletteWanted = wantedOnceOpen(paletteOpen)
const sheetWanted = wantedOnceOpen(sheetOpen)
const loginsWanted = wantedOnceOpen(loginsOpen)

const links = computed(() => [
  ...(session.isOffice ? [{ to: '/day', label: 'Day', icon: 'i-lucide-panel-top' }] : []),
  { to: '/my-day', label: 'My day', icon: 'i-lucide-list-checks' },
  { to: '/jobs', label: 'Jobs', icon: 'i-lucide-house' },
  { to: '/callbacks', label: 'Callbacks', icon: 'i-lucide-undo-2' },
  ...(session.isOffice ? [{ to: '/messages', label: 'Messages', icon: 'i-lucide-mail' }] : []),
  ...(session.isOffice ? [{ to: '/insights', label: 'Insights', icon: 'i-lucide-chart-line', desk: true }] : []),
  { to: '/stock', label: 'Stock', icon: 'i-lucide-package' },
  { to: '/practice', label: 'Practice', icon: 'i-lucide-graduation-cap' },
])
const isHere = (to: string) => route.path === to || route.path.startsWith(`${to}/`)

const menuOpen = ref(false)
const menuHere = ref(false)
const loadMenu = () => import('~/components/common/WhoMenu.vue')
void firstPageStands.then(loadMenu).catch(() => undefined)
async function openMenu() {
  await loadMenu()
  menuHere.value = true
  menuOpen.value = true
}

useShortcuts({ palette: () => (paletteOpen.value = true), sheet: () => (sheetOpen.value = true) })
</script>

<template>
  <div>
    <a class="skip" href="#main">Skip to content</a>
    <header class="top">
      <NuxtLink to="/" class="mark" aria-label="Circuitry, start">
        <svg width="30" height="24" viewBox="0 0 30 24" aria-hidden="true">
          <path d="M0 13H8M20 13H28" stroke="var(--copper)" stroke-width="4" />
          <path d="M20 13L9 4" stroke="var(--ink)" stroke-width="3.4" stroke-linecap="round" />
        </svg>
        <b class="name">Circuitry</b>
      </NuxtLink>
      <nav aria-label="Main" class="links">
        <NuxtLink
          v-for="link in links"
          :key="link.to"
          :to="link.to"
          :class="{ here: isHere(link.to), desk: 'desk' in link }"
          :aria-current="isHere(link.to) ? 'page' : undefined"
          ><UIcon :name="link.icon" class="phone-icon" /><span>{{ link.label }}</span></NuxtLink
        >
      </nav>
      <span class="grow" />
      <CommonSync />
      <span class="mono small soft wide">{{ clockTime(new Date(now).toISOString(), session.region) }}</span>
      <UButton variant="ghost" icon="i-lucide-search" aria-label="Find or do (slash)" square @click="paletteOpen = true" />
      <LazyCommonWhoMenu v-if="menuHere" v-model:open="menuOpen" @help="sheetOpen = true" @logins="loginsOpen = true" />
      <CommonWhoButton v-else @click="openMenu" />
    </header>
    <CommonRestored />
    <CommonBackup />
    <CommonClockOff />
    <LazyCommonTried v-if="session.tried && (session.tried.passwords || session.tried.pins)" @logins="loginsOpen = true" />
    <main id="main"><slot /></main>
    <LazyCommonPalette v-if="paletteWanted" v-model:open="paletteOpen" />
    <LazyCommonKeySheet v-if="sheetWanted" v-model:open="sheetOpen" />
    <LazyCommonLogins v-if="loginsWanted" v-model:open="loginsOpen" />
  </div>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 14px;
  height: 52px;
  padding: 0 12px 0 20px;
  border-bottom: 1.5px solid var(--ink);
  position: sticky;
  top: 0;
  background: var(--paper);
  z-index: 20;
}
.mark {
  display: flex;
  gap: 8px;
  align-items: center;
  color: inherit;
}
.name {
  font-size: 17px;
}
.links {
  display: flex;
  gap: 2px;
  height: 100%;
}
.links a {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 0 12px;
  color: var(--soft);
  border-bottom: 4px solid transparent;
  border-top: 4px solid transparent;
}
.links a.here {
  color: var(--ink);
  font-weight: 640;
  border-bottom-color: var(--copper-bar);
}
.phone-icon {
  display: none;
}
@media (max-width: 760px) {
  /* Under a thumb there is room for seven; the palette has it. */
  .links a.desk {
    display: none;
  }
  .top {
    padding: 0 6px 0 14px;
    gap: 6px;
  }
  .name,
  .wide {
    display: none;
  }
  .links {
    position: fixed;
    left: 0;
    right: 0;
    bottom: 0;
    height: 60px;
    background: var(--paper);
    border-top: 1.5px solid var(--ink);
    z-index: 30;
    padding-bottom: env(safe-area-inset-bottom);
  }
  .links a {
    flex: 1;
    flex-direction: column;
    justify-content: center;
    gap: 2px;
    font-size: 12px;
    padding: 0;
    border-bottom: 0;
    border-top: 4px solid transparent;
  }
  .links a.here {
    border-top-color: var(--copper-bar);
  }
  .phone-icon {
    display: block;
    width: 20px;
    height: 20px;
  }
}
</style>
