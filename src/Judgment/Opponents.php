<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Http\Problem;
use App\Question\Ground;
use App\Trial\Distances;
use App\Trial\FigureView;
use App\Trial\Trial;
use App\Trial\Trials;
use App\Trial\TrialView;
use Dokimos\Core\Figure\LogLoss;
use Dokimos\Core\Figure\MeanAbsoluteError;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\McNemar;
use Dokimos\Core\Profile\Association;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Comparison;

/** Sets one trial against another on the rows that both had not seen. */
final readonly class Opponents
{
    public function __construct(private Ground $ground, private Judgments $judgments, private Distances $distances, private Trials $trials)
    {
    }

    public function of(Trial $one, Trial $other, CutOff $cutoff): AgainstView
    {
        if ($one->study() !== $other->study() || $one->id() === $other->id()) {
            throw Problem::invalid('A trial is set against another one of the same study.', 'other');
        }
        $task = $this->judgments->model($one)->task;
        $this->judgments->model($other);
        array_map($this->judgments->onItsRows(...), [$one, $other]);
        $views = [TrialView::of($one), TrialView::of($other)];
        [, $outcome] = $this->ground->open($one->study(), []);
        [$own, $others] = [$one->answers(), $other->answers()];
        $rows = array_keys(array_filter(
            $outcome,
            static fn (float $y, int $i): bool => $own->isKnown($i) && $others->isKnown($i),
            \ARRAY_FILTER_USE_BOTH,
        ));
        if ([] === $rows) {
            throw new Problem(409, 'There is no row that both trials can answer for.');
        }
        $known = array_map(static fn (int $i): float => $outcome[$i], $rows);
        [$first, $second] = [new Sample($known, $own->take($rows)), new Sample($known, $others->take($rows))];
        $loss = Task::NUMBER === $task ? new MeanAbsoluteError() : new LogLoss();
        $losses = array_map(static fn (float $a, float $b): float => $a - $b, $loss->losses($first), $loss->losses($second));
        $measure = $one->question()->figureOf($task);
        $distance = $this->distances->between($one->study(), $one, $other, Comparison::pairs($this->trials->comparable($one->study())));
        [$ranking, $p] = Task::TWO === $task ? self::ranking($first, $second) : [null, null];
        $right = Task::NUMBER === $task ? null : McNemar::test(
            array_fill(0, \count($known), 1.0),
            self::right($task, $first, $cutoff),
            self::right($task, $second, $cutoff),
            0.5,
        );

        return new AgainstView(
            $views[0],
            $views[1],
            FigureView::of($measure),
            \count($known),
            null === $distance->p ? null : new Interval($distance->difference, $distance->low, $distance->high),
            $distance->p,
            $distance->adjusted,
            $distance->noise,
            $ranking,
            $p,
            Task::NUMBER === $task ? 'absolute error' : 'log loss',
            Interval::mean($losses),
            $own->width > 1 ? null : Association::pearson($first->answers->values, $second->answers->values)['r'] ?? null,
            Task::TWO === $task ? $cutoff->value : null,
            $right['both_right'] ?? null,
            $right['only_score_right'] ?? null,
            $right['only_score2_right'] ?? null,
            $right['both_wrong'] ?? null,
            $right['exact_p'] ?? null,
        );
    }

    /** @return array{?Interval, ?float} */
    private static function ranking(Sample $first, Sample $second): array
    {
        $events = array_sum($first->outcome);
        if ($events < 2 || $first->rows() - $events < 2) {
            return [null, null];
        }
        $test = DeLong::test(DeLong::of($first->outcome, $first->answers->values), DeLong::of($second->outcome, $second->answers->values));
        $half = Normal::Z95 * $test['se'];

        return [new Interval($test['auc_difference'], $test['auc_difference'] - $half, $test['auc_difference'] + $half), $test['p']];
    }

    /** @return list<float> 1 where the decision was right */
    private static function right(string $task, Sample $sample, CutOff $cutoff): array
    {
        $answers = $sample->answers;
        $out = [];
        foreach ($sample->outcome as $i => $y) {
            $out[] = (Task::TWO === $task ? $cutoff->calls($answers->values[$i]) === $y > 0.5 : $answers->likeliest($i) === (int) $y) ? 1.0 : 0.0;
        }

        return $out;
    }
}
