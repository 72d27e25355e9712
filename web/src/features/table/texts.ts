export const kinds = ['number', 'category', 'yes/no', 'date', 'text', 'identifier'] as const
export const uses = ['input', 'set aside', 'key', 'weight', 'split marker'] as const

export const explain: Record<string, string> = {
  number: 'Amounts and counts: they can be averaged.',
  category: 'One of a short list of values; codes belong here even when they look like numbers.',
  'yes/no': 'Two values that say yes or no.',
  date: 'A day, or a day with a time.',
  text: 'Free words.',
  identifier: 'A name or number that stands for one thing; nothing is learned from it.',
  input: 'May help to predict.',
  target: 'What is to be predicted.',
  'set aside': 'Left out of everything.',
  key: 'Says which record it is.',
  weight: 'How much each record counts, while learning and in the figure that ranks trials.',
  'split marker': 'Says which rows train and which judge.',
}
