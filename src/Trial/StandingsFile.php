<?php

declare(strict_types=1);

namespace App\Trial;

use App\Study\Study;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Learners\Learners;

/** The Standings as a file: one line per trial with every figure that ranks and its interval. */
final readonly class StandingsFile
{
    public function __construct(private Trials $trials)
    {
    }

    /** @return list<string> lines of CSV, hidden trials too: a list of what was tried leaves nothing out */
    public function lines(Study $study): array
    {
        $ranked = $this->trials->of($study);
        $task = [] === $ranked ? '' : $ranked[0]->question()->task();
        $figures = '' === $task ? [] : array_values(array_filter(Figures::of($task), static fn (Figure $f): bool => $f->ranks));
        $heads = [
            'rank',
            'trial',
            'learner',
            'settings',
            'preparation',
            'column_choice',
            'columns',
            'to_read',
            'chances',
            'rows',
            'unanswered',
        ];
        foreach ($figures as $figure) {
            array_push($heads, $figure->key, $figure->key.'_low', $figure->key.'_high', $figure->key.'_do_nothing');
        }
        $lines = [CsvWriter::line([...$heads, 'state', 'stale', 'seal_opened', 'hidden', 'note', 'begun'])];
        foreach ($ranked as $rank => $trial) {
            $line = $trial->line();
            $choice = $trial->choice();
            $cells = [
                (string) ($rank + 1),
                (string) $trial->number(),
                Learners::title($trial->learner()),
                implode('; ', Learners::unusual($trial->learner(), $trial->settings())),
                $trial->variant()?->letter(),
                null === $choice ? 'all' : ($choice->without ? 'all but ' : 'only ').implode(', ', $choice->names),
                (string) $line->columns,
                $line->size,
                $trial->calibration(),
                (string) $line->rows,
                (string) $line->unanswered,
            ];
            foreach ($figures as $figure) {
                $own = $line->task === $task ? $trial->lineBy($figure) : null;
                foreach ([$own?->value, $own?->low, $own?->high, $own?->baseline] as $value) {
                    $cells[] = null === $value ? null : (string) $value;
                }
            }
            $lines[] = CsvWriter::line([
                ...$cells,
                $trial->state(),
                $trial->isDone() ? implode('; ', Ancestry::stale($trial)) : '',
                null === $trial->opening() ? 'no' : 'yes',
                $trial->isHidden() ? 'yes' : 'no',
                $trial->note(),
                $trial->createdAt()->format('Y-m-d'),
            ]);
        }

        return $lines;
    }
}
