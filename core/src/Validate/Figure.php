<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\ClassJudgment;

/** The one figure that trials of a task are ranked by. */
final readonly class Figure
{
    /**
     * @param string $name as columns are headed
     * @param bool   $more whether more is better
     */
    private function __construct(public string $name, public string $title, public bool $more, private string $task)
    {
    }

    public static function of(string $task): self
    {
        return match ($task) {
            AboutLearner::NUMBER => new self('RMSE', 'root of the mean squared error', false, $task),
            AboutLearner::MORE => new self('log loss', 'mean log loss', false, $task),
            default => new self('AUC', 'area under the ROC curve', true, $task),
        };
    }

    /**
     * @param list<float>  $outcome per row
     * @param list<float>  $answers of several classes the chances of all, row after row; NAN = cannot answer
     * @param ?list<float> $weights per row; those of 0 do not count
     *
     * @return ?float null when no row can be answered, or all have one outcome
     */
    public function value(array $outcome, array $answers, ?array $weights = null): ?float
    {
        $width = [] === $outcome ? 1 : intdiv(\count($answers), \count($outcome));
        $known = $own = $counts = [];
        foreach ($outcome as $i => $y) {
            if (!is_nan($answers[$i * $width]) && (null === $weights || $weights[$i] > 0.0)) {
                $known[] = $y;
                $own[] = $width > 1 ? $answers[$i * $width + (int) $y] : $answers[$i];
                $counts[] = $weights[$i] ?? 1.0;
            }
        }
        if ([] === $known) {
            return null;
        }
        if (AboutLearner::TWO === $this->task) {
            return (new BinaryScores($known, $own, null === $weights ? null : $counts))->auc();
        }
        $sum = 0.0;
        foreach (AboutLearner::MORE === $this->task ? ClassJudgment::losses(array_fill(0, \count($own), 0), [$own]) : array_map(static fn (float $y, float $p): float => ($y - $p) * ($y - $p), $known, $own) as $i => $loss) {
            $sum += $counts[$i] * $loss;
        }

        $mean = $sum / array_sum($counts);

        return AboutLearner::NUMBER === $this->task ? sqrt($mean) : $mean;
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
