import { dictionary } from 'cmu-pronouncing-dictionary'
import type { Pronounce } from '..'

export const pronounce: Pronounce = (word) => dictionary[word]?.replace(/\d/g, '').split(' ') ?? null
