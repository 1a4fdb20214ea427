declare module '#auth-utils' {
  interface User {
    personId: string
    epoch: number
    sessionId: string
  }
  interface UserSession {
    loggedInAt: number
  }
}
export {}
