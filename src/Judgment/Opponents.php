<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Http\Problem;
use App\Question\Ground;
use App\Trial\Distances;
use App\Trial\Trial;
use App\Trial\Trials;
use App\Trial\TrialView;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\ClassJudgment;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\McNemar;
use Dokimos\Core\Profile\Association;
use Dokimos\Core\Validate\Comparison;
use Dokimos\Core\Validate\Figure;

/** Sets one trial against another on the rows that both had not seen. */
final readonly class Opponents
{
    public function __construct(private Ground $ground, private Judgments $judgments, private Distances $distances, private Trials $trials)
    {
    }

    public function of(Trial $one, Trial $other, float $cutoff): AgainstView
    {
        if ($one->study() !== $other->study() || $one->id() === $other->id()) {
            throw Problem::invalid('A trial is set against another one of the same study.', 'other');
        }
        $task = $this->judgments->model($one)->task;
        $this->judgments->model($other);
        array_map($this->judgments->onItsRows(...), [$one, $other]);
        $views = [TrialView::of($one), TrialView::of($other)];
        $classes = AboutLearner::MORE === $task ? $one->study()->classes() ?? [] : [];
        $width = max(1, \count($classes));
        [, $outcome] = $this->ground->open($one->study(), []);
        $answers = [$one->answers(), $other->answers()];
        $known = $first = $second = [];
        foreach ($outcome as $i => $y) {
            if (!is_nan($answers[0][$i * $width]) && !is_nan($answers[1][$i * $width])) {
                $known[] = $y;
                $first[] = \array_slice($answers[0], $i * $width, $width);
                $second[] = \array_slice($answers[1], $i * $width, $width);
            }
        }
        if ([] === $known) {
            throw new Problem(409, 'There is no row that both trials can answer for.');
        }
        $losses = array_map(static fn (float $a, float $b): float => $a - $b, self::losses($task, $known, $first), self::losses($task, $known, $second));
        $measure = Figure::of($task);
        $distance = $this->distances->between($one->study(), $one, $other, Comparison::pairs($this->trials->comparable($one->study())));
        [$ranking, $p] = AboutLearner::TWO === $task ? self::ranking($known, array_column($first, 0), array_column($second, 0)) : [null, null];
        $right = AboutLearner::NUMBER === $task ? null : McNemar::test(array_fill(0, \count($known), 1.0), self::right($task, $known, $first, $cutoff), self::right($task, $known, $second, $cutoff), 0.5);

        return new AgainstView(
            $views[0],
            $views[1],
            $measure->name,
            $measure->more,
            \count($known),
            null === $distance->p ? null : new Interval($distance->difference, $distance->low, $distance->high),
            $distance->p,
            $distance->adjusted,
            $distance->noise,
            $ranking,
            $p,
            AboutLearner::NUMBER === $task ? 'absolute error' : 'log loss',
            Interval::mean($losses),
            $width > 1 ? null : Association::pearson(array_column($first, 0), array_column($second, 0))['r'] ?? null,
            AboutLearner::TWO === $task ? $cutoff : null,
            $right['both_right'] ?? null,
            $right['only_score_right'] ?? null,
            $right['only_score2_right'] ?? null,
            $right['both_wrong'] ?? null,
            $right['exact_p'] ?? null,
        );
    }

    /**
     * @param list<float> $known
     * @param list<float> $first
     * @param list<float> $second
     *
     * @return array{?Interval, ?float}
     */
    private static function ranking(array $known, array $first, array $second): array
    {
        $events = array_sum($known);
        if ($events < 2 || \count($known) - $events < 2) {
            return [null, null];
        }
        $test = DeLong::test(DeLong::of($known, $first), DeLong::of($known, $second));
        $half = Normal::Z95 * $test['se'];

        return [new Interval($test['auc_difference'], $test['auc_difference'] - $half, $test['auc_difference'] + $half), $test['p']];
    }

    /**
     * @param non-empty-list<float> $known
     * @param list<list<float>>     $said  per row
     *
     * @return list<float> one per row
     */
    private static function losses(string $task, array $known, array $said): array
    {
        return match ($task) {
            AboutLearner::NUMBER => array_map(static fn (float $y, array $s): float => abs($y - $s[0]), $known, $said),
            AboutLearner::MORE => ClassJudgment::losses(array_fill(0, \count($known), 0), [array_map(static fn (float $y, array $s): float => $s[(int) $y], $known, $said)]),
            default => (new BinaryScores($known, array_column($said, 0)))->logLosses(),
        };
    }

    /**
     * @param list<float>       $known
     * @param list<list<float>> $said
     *
     * @return list<float> 1 where the decision was right
     */
    private static function right(string $task, array $known, array $said, float $cutoff): array
    {
        return array_map(static fn (float $y, array $s): float => (AboutLearner::TWO === $task ? ($s[0] >= $cutoff) === ($y > 0.5) : array_search(max([0.0, ...$s]), $s, true) === (int) $y) ? 1.0 : 0.0, $known, $said);
    }
}
