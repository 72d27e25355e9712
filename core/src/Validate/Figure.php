<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Measure\BinaryScores;

/** A figure that answers are judged by. The first of a task is the one that trials are ranked by. */
final readonly class Figure
{
    private const LEAST = 1e-15;

    /**
     * @param string $name  as columns are headed
     * @param string $key   as results name it
     * @param bool   $more  whether more is better
     * @param bool   $ratio whether its interval is told in ratios, as of a size
     * @param ?float $least that it cannot be below
     */
    private function __construct(public string $name, public string $title, public bool $more, public string $task, public string $key, public bool $ratio = false, public ?float $least = null, public ?float $most = null)
    {
    }

    /** The one that trials of a task are ranked by. */
    public static function of(string $task): self
    {
        return self::all($task)[0];
    }

    /** @return non-empty-list<self> */
    public static function all(string $task): array
    {
        return match ($task) {
            AboutLearner::NUMBER => [
                new self('RMSE', 'root of the mean squared error', false, $task, 'rmse', true),
                new self('MAE', 'mean absolute error', false, $task, 'mae', true),
                new self('R2', 'share of the variance explained', true, $task, 'r2', false, null, 1.0),
            ],
            AboutLearner::MORE => [
                new self('log loss', 'mean log loss', false, $task, 'logLoss', false, 0.0),
                new self('accuracy', 'share of rows whose likeliest class is right', true, $task, 'accuracy', false, 0.0, 1.0),
            ],
            default => [
                new self('AUC', 'area under the ROC curve', true, $task, 'auc', false, 0.0, 1.0),
                new self('average precision', 'area under the precision-recall curve', true, $task, 'averagePrecision', false, 0.0, 1.0),
                new self('log loss', 'mean log loss', false, $task, 'logLoss', false, 0.0),
                new self('Brier', 'mean squared error of the chance', false, $task, 'brier', false, 0.0, 1.0),
                new self('accuracy', 'share of rows on the right side of one half', true, $task, 'accuracy', false, 0.0, 1.0),
            ],
        };
    }

    /** @throws \InvalidArgumentException when the task has no such figure */
    public static function named(string $task, string $name): self
    {
        foreach (self::all($task) as $figure) {
            if (0 === strcasecmp($figure->name, $name)) {
                return $figure;
            }
        }

        throw new \InvalidArgumentException(\sprintf('There is no figure "%s"; there are %s.', $name, implode(', ', array_map(static fn (self $f): string => $f->name, self::all($task)))));
    }

    /**
     * @param list<float>  $outcome per row
     * @param list<float>  $answers of several classes the chances of all, row after row; NAN = cannot answer
     * @param ?list<float> $weights per row; those of 0 do not count
     *
     * @return ?float null when no row can be answered, or the figure is not defined, as of one outcome alone
     */
    public function value(array $outcome, array $answers, ?array $weights = null): ?float
    {
        $width = [] === $outcome ? 1 : intdiv(\count($answers), \count($outcome));
        $known = $own = $counts = [];
        foreach ($outcome as $i => $y) {
            if (!is_nan($answers[$i * $width]) && (null === $weights || $weights[$i] > 0.0)) {
                $known[] = $y;
                $own[] = $width > 1 ? $this->ofSeveral(\array_slice($answers, $i * $width, $width), (int) $y) : $answers[$i];
                $counts[] = $weights[$i] ?? 1.0;
            }
        }
        if ([] === $known) {
            return null;
        }
        if ('AUC' === $this->name || 'average precision' === $this->name) {
            $scores = new BinaryScores($known, $own, null === $weights ? null : $counts);

            return 'AUC' === $this->name ? $scores->auc() : $scores->averagePrecision();
        }
        $mean = self::mean(AboutLearner::MORE === $this->task ? $own : array_map($this->ofRow(...), $known, $own), $counts);
        if ('R2' === $this->name) {
            $middle = self::mean($known, $counts);
            $variance = self::mean(array_map(static fn (float $y): float => ($y - $middle) * ($y - $middle), $known), $counts);

            return $variance > 0.0 ? 1 - $mean / $variance : null;
        }

        return 'RMSE' === $this->name ? sqrt($mean) : $mean;
    }

    /**
     * What each row adds to the mean that the figure is made of; of RMSE and R² its squared error.
     *
     * @param list<float> $outcome
     * @param list<float> $answers of several classes the chances of all, row after row; no NAN
     *
     * @return list<float> one per row
     */
    public function losses(array $outcome, array $answers): array
    {
        $width = [] === $outcome ? 1 : intdiv(\count($answers), \count($outcome));
        $out = [];
        foreach ($outcome as $i => $y) {
            $out[] = $width > 1 ? $this->ofSeveral(\array_slice($answers, $i * $width, $width), (int) $y) : $this->ofRow($y, $answers[$i]);
        }

        return $out;
    }

    /** What one row adds to a mean. */
    private function ofRow(float $y, float $p): float
    {
        return match ($this->name) {
            'MAE' => abs($y - $p),
            'log loss' => -log(max(self::LEAST, $y > 0.5 ? $p : 1.0 - $p)),
            'accuracy' => $p >= 0.5 === $y > 0.5 ? 1.0 : 0.0,
            default => ($y - $p) * ($y - $p),
        };
    }

    /** @param list<float> $chances of all classes */
    private function ofSeveral(array $chances, int $class): float
    {
        return 'accuracy' === $this->name ? (float) (array_search(max([0.0, ...$chances]), $chances, true) === $class) : -log(max(self::LEAST, $chances[$class]));
    }

    /**
     * @param list<float> $values
     * @param list<float> $weights
     */
    private static function mean(array $values, array $weights): float
    {
        $sum = 0.0;
        foreach ($values as $i => $v) {
            $sum += $weights[$i] * $v;
        }

        return $sum / array_sum($weights);
    }

    /** Of two values the better one first. */
    public function order(?float $a, ?float $b): int
    {
        return match (true) {
            null === $a || null === $b => (null === $a ? 1 : 0) <=> (null === $b ? 1 : 0),
            default => $this->more ? $b <=> $a : $a <=> $b,
        };
    }

    public function said(?float $value): string
    {
        return null === $value ? '–' : (AboutLearner::NUMBER === $this->task ? (string) (float) \sprintf('%.4g', $value) : \sprintf('%.3f', $value));
    }
}
