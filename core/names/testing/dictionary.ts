import { dictionary } from 'cmu-pronouncing-dictionary'
import { pronounceBy } from '..'

export const pronounce = pronounceBy(dictionary)
