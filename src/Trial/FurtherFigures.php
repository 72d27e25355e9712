<?php

declare(strict_types=1);

namespace App\Trial;

use App\Question\Ground;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Figure\Sample;

/**
 * Measures trials by a figure that was not thought of when they were fitted, from their answers for rows that their models had not seen.
 */
final readonly class FurtherFigures
{
    public function __construct(private EntityManagerInterface $entities, private Ground $ground)
    {
    }

    public function measure(Study $study, Figure $figure): void
    {
        // The usual ones are told by every trial.
        if (\in_array($figure->key, array_map(static fn (Figure $f): string => $f->key, Figures::of($figure->tasks[0])), true)) {
            return;
        }
        $trials = array_filter(
            $this->entities->getRepository(Trial::class)->findBy(['question' => $study->id()]),
            static fn (Trial $t): bool => $t->isDone() && \in_array($t->question()->task(), $figure->tasks, true) && !$t->tells($figure),
        );
        if ([] === $trials) {
            return;
        }
        [, $outcome, $rows] = $this->ground->open($study, []);
        $weights = $this->ground->weights($study, $rows);
        foreach ($trials as $trial) {
            $answers = $trial->answers();
            if (\count($answers->values) !== \count($outcome) * $answers->width) {
                continue;
            }
            $sample = Sample::known($outcome, $answers, $weights, true);
            if (null !== $sample) {
                $trial->tell(
                    $figure,
                    ($figure->interval($sample)?->toArray() ?? []) + ['pooled' => true, 'baseline' => $figure->baseline($sample)],
                );
            }
        }
    }
}
