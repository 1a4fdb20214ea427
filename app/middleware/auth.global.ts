export default defineNuxtRouteMiddleware(async (to) => {
  // A customer’s link is its own key; who else is logged in here is nobody’s business on that page.
  if (isCustomersPage(to.path)) return
  const session = useSession()
  if (!session.known) await session.check()
  const open = to.path === '/login' || to.path === '/setup'
  if (!session.viewer) return open ? undefined : navigateTo({ path: '/login', query: to.path === '/' ? {} : { then: to.fullPath } })
  if (open || to.path === '/') return navigateTo(session.isOffice && window.innerWidth > 760 ? '/day' : '/my-day')
})
