/** Parts for a job: picked, used, brought back. */
export * from './move-part'
