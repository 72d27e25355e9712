import type { Trial } from './trial'

type Told = Pick<Trial, 'id' | 'learner' | 'settings'>

/** What tells a trial from the others of its learner. */
export function told(trial: Told, trials: Told[]): string {
  const others = trials.filter((t) => t.learner === trial.learner && t.id !== trial.id)
  const own = trial.settings.filter((s) => others.length === 0 || !others.every((t) => t.settings.includes(s)))
  return own.length > 0 ? `: ${own.map(brief).join(', ')}` : ''
}

/** A setting in as few words as tell it: the word chosen, else its name and value. */
function brief(setting: string): string {
  const value = setting.split(': ')[1]
  const isWord = value !== undefined && /^[a-z]/.test(value) && value !== 'yes' && value !== 'no' && !setting.startsWith('May only')
  return isWord ? value : setting.charAt(0).toLowerCase() + setting.slice(1)
}
