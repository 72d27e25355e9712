<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\Together;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Progress;
use Dokimos\Core\Random;
use Dokimos\Core\Stretch;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Random\Randomizer;

/**
 * What pairs of columns seem to do together where nothing does: outcomes are made of an additive model, the learner is fitted to them
 * as it was to the real ones, and its pairs are measured alike (Friedman and Popescu 2008, section 8.3). Definition:
 * docs/methods/effects.md.
 */
final class PairsByChance
{
    /** With 19, what lies above all of them has a chance of 1 in 20. */
    public const DRAWS = 19;
    /** Rows that pairs are measured on. */
    private const ROWS = 40;

    /**
     * @param Learner      $additive one whose answers are a sum over columns, on its own scale
     * @param Learner      $own      the one whose pairs are looked at
     * @param ?int         $part     so many rows are learned from at most; null = all
     * @param list<string> $columns
     * @param ?int         $class    of several, whose chance is looked at
     *
     * Sizes: what pairs do together in the learner fitted as it was; most: per draw the most that any pair seems to
     *
     * @return array{sizes: list<array{one: string, other: string, size: float}>, most: list<float>}
     *
     * @throws \Dokimos\Core\Learn\CannotFit
     */
    public static function of(
        TrialData $data,
        Learner $additive,
        Learner $own,
        ?int $part,
        array $columns,
        ?int $class,
        int $seed,
        ?Progress $progress = null,
    ): array {
        $random = Random::stream($seed, 'pairs by chance');
        $known = $data->known();
        $n = min(self::ROWS, \count($known));
        $rows = $data->table->take(array_map(static fn (int $k): int => $known[intdiv($k * \count($known), $n)], range(0, max(0, $n - 1))));
        $alone = self::fitted($data, $additive, $part)($data->table);
        $sizes = self::sizes(self::fitted($data, $own, $part), $rows, $columns, $class);
        $most = [];
        for ($draw = 0; $draw < self::DRAWS; ++$draw) {
            $step = null === $progress ? null : new Stretch($progress, ($draw + 1) / (self::DRAWS + 1), ($draw + 2) / (self::DRAWS + 1));
            $step?->report(0.0, 'fitted to outcomes in which nothing acts together');
            $answers = self::fitted($data->with(self::drawn($data, $alone, $random)), $own, $part, $step);
            $most[] = max([0.0, ...array_column(self::sizes($answers, $rows, $columns, $class), 'size')]);
        }

        return ['sizes' => $sizes, 'most' => $most];
    }

    /**
     * @param \Closure(Table): Answers $answers
     * @param list<string>             $columns
     *
     * @return list<array{one: string, other: string, size: float}>
     */
    private static function sizes(\Closure $answers, Table $rows, array $columns, ?int $class): array
    {
        $together = new Together(static function (Table $table) use ($answers, $class): array {
            $told = $answers($table);

            return array_map(
                static fn (int $row): float => null === $class ? $told->first($row) : $told->ofClass($row, $class),
                range(0, max(0, $table->rows - 1)),
            );
        }, $rows);
        $out = [];
        foreach ($columns as $i => $one) {
            foreach (\array_slice($columns, $i + 1) as $other) {
                $out[] = ['one' => $one, 'other' => $other, 'size' => $together->pair($one, $other)['unscaled']];
            }
        }

        return $out;
    }

    /** @return \Closure(Table): Answers of a model fitted on all rows */
    private static function fitted(TrialData $data, Learner $learner, ?int $part, ?Progress $progress = null): \Closure
    {
        $fit = FoldFit::of($data->prepared($data->some($data->known(), $part)), $learner, $progress);
        $width = $data->width();

        return static function (Table $table) use ($fit, $width): Answers {
            $answers = ScoringModel::answersOf($fit->model, $fit->fold->fitted->apply($table), null, $width);

            return $fit->back?->of($answers) ?? $answers;
        };
    }

    /**
     * An outcome as the additive model has it, and nothing beside: a class drawn by its chances; a number with the rest of another row.
     *
     * @return list<float>
     */
    private static function drawn(TrialData $data, Answers $alone, Randomizer $random): array
    {
        $out = $data->outcome;
        $known = array_values(array_filter($data->known(), $alone->isKnown(...)));
        if (null === $data->classes) {
            $rest = $random->shuffleArray(array_map(static fn (int $row): float => $data->outcome[$row] - $alone->first($row), $known));
            foreach ($known as $i => $row) {
                $out[$row] = $alone->first($row) + $rest[$i];
            }

            return array_values($out);
        }
        foreach ($known as $row) {
            $u = $random->getInt(0, (1 << 53) - 1) / (1 << 53);
            $chances = 1 === $alone->width ? [1.0 - $alone->first($row), $alone->first($row)] : $alone->of($row);
            $class = 0;
            while ($class < \count($chances) - 1 && $u >= $chances[$class]) {
                $u -= $chances[$class++];
            }
            $out[$row] = (float) $class;
        }

        return array_values($out);
    }
}
