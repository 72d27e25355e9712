<?php

declare(strict_types=1);

namespace App\Trial;

use App\Preparation\Variant;
use App\Question\Question;
use Dokimos\Core\Decide\Blended;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Step;
use Dokimos\Core\Stamp;
use Dokimos\Core\Table\ColumnUse;

/** What a trial is made from, and whether that still stands. The table of causes: docs/decisions/staleness.md. */
final class Ancestry
{
    /**
     * @param list<array<string, mixed>> $steps
     * @param list<string>               $inputs
     *
     * @return array<string, string>
     */
    public static function of(Question $question, array $steps, array $inputs, string $learner): array
    {
        $columns = [];
        $weight = '';
        foreach ($question->table()?->columns() ?? [] as $column) {
            if (\in_array($column->name(), $inputs, true)) {
                $columns[] = $column->stamp();
            }
            if (ColumnUse::Weight === $column->use()) {
                $weight = $column->name();
            }
        }

        return [
            'study' => $question->hash(),
            'steps' => Variant::hashOf($steps),
            'columns' => Stamp::of($columns),
            'weight' => $weight,
            'code' => \sprintf('%d.%d', Blended::NAME === $learner ? 1 : Learners::card($learner)->version, Step::VERSION),
        ];
    }

    /** Whether what is judged now are still the rows and the outcome that its answers were kept for. */
    public static function onItsRows(Trial $trial): bool
    {
        return ($trial->ancestry()['study'] ?? '') === $trial->question()->hash();
    }

    /** @return list<string> why the trial no longer stands on what is there now; [] = it does */
    public static function stale(Trial $trial): array
    {
        $then = $trial->ancestry();
        $now = self::of($trial->question(), $trial->variant()?->steps() ?? $trial->steps(), $trial->inputs(), $trial->learner());
        $why = [
            'study' => 'the table, the target or the split plan has changed',
            'steps' => \sprintf('the steps of variant %s have changed', $trial->variant()?->letter() ?? '?'),
            'columns' => 'the kind or use of a column has changed',
            'weight' => 'records count otherwise: the column of weights has changed',
            'code' => self::otherwise($then['code'] ?? '', $now['code'], $trial->learner()),
        ];
        $reasons = [];
        foreach ($why as $part => $sentence) {
            if (($then[$part] ?? '') !== $now[$part]) {
                $reasons[] = $sentence;
            }
        }

        return $reasons;
    }

    /** Which algorithm this version of Dokimos computes in another way: the learner's, that of the steps, or both. */
    private static function otherwise(string $then, string $now, string $learner): string
    {
        [$of, $steps] = [...explode('.', $then, 2), '', ''];
        [$ofNow, $stepsNow] = explode('.', $now, 2);
        $what = implode(
            ' and ',
            array_filter([
                $of !== $ofNow ? mb_strtolower(Learners::title($learner)) : '',
                $steps !== $stepsNow ? 'the steps of the preparation' : '',
            ]),
        );

        return \sprintf('this version of Dokimos computes %s differently', '' === $what ? 'it' : $what);
    }
}
