export default defineNuxtRouteMiddleware(async (to) => {
  const session = useSession()
  if (!session.known) await session.check()
  const open = to.path === '/login' || to.path === '/setup'
  if (!session.viewer) return open ? undefined : navigateTo({ path: '/login', query: to.path === '/' ? {} : { then: to.fullPath } })
  if (open || to.path === '/') return navigateTo(session.isOffice && window.innerWidth > 760 ? '/day' : '/my-day')
})
