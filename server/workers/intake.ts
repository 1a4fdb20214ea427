import { answerParent } from './answer-parent'
import { readIntake } from './read-intake'

/** A thread that reads files: nonsense of megabytes keeps nobody else waiting. */
answerParent(readIntake)
