<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\LearnerSetting;
use Dokimos\Core\Learn\Task;
use Dokimos\Core\Math\Cholesky;
use Dokimos\Core\Math\NotPositiveDefinite;
use Dokimos\Core\Progress;

/**
 * Logistic regression by maximum likelihood.
 *
 * Columns are centered and scaled for the computation and the result is carried back, so that a date or an amount in cents costs no
 * digits. Terms that only repeat others are left out and named. When the classes are separated, the estimate does not exist: a ridge
 * of 1 on the standardized coefficients is added, and said.
 */
final readonly class LogisticRegression implements Learner
{
    /** Standard error times spread beyond which a term is taken to run to infinity; honest fits stay below 1. */
    private const RUNAWAY = 50.0;
    private const RIDGE = 1.0;
    private const SAMPLE_FROM = 30000;
    /** The estimate of a sample is a place to begin, itself wrong by more than this. */
    private const SAMPLE_ENOUGH = 1.0;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        LearnerSetting::values(self::described()->title, [], $given);
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner('logistic', 'Logistic regression', 'Adds up one effect per column. Readable term by term, quick, and hard to beat when effects are steady.', [AboutLearner::TWO], []);
    }

    public function settings(): array
    {
        return [];
    }

    public function fit(Task $task, ?Progress $progress = null): LogisticModel
    {
        $usable = $task->usable();
        $coding = Coding::learn($task->table, $task->inputs, $usable);
        $rows = $coding->complete($task->table, $usable);
        [$y, $weights, $rowsUsed, $positives, $weightSum, $weightedPositives] = self::outcome($task, $rows);
        if ($weightedPositives <= 0.0 || $weightedPositives >= $weightSum) {
            throw new CannotFit(0 === $rowsUsed
                ? 'No training row has a value in every column used. Fill or set aside the columns with missing values first.'
                : \sprintf('All %s usable training rows have the same outcome, so there is nothing to tell apart.', number_format($rowsUsed)));
        }
        $raw = $coding->matrix($task->table, $rows);
        [$scaled, $means, $spreads] = self::standardized($raw, $weights, $weightSum);
        $start = self::start($scaled, $y, $weights, log($weightedPositives / ($weightSum - $weightedPositives)));
        $newton = new NewtonFit($scaled, $y, $weights);
        $aliased = Cholesky::dependent($newton->informationAt($start));
        if ([] !== $aliased) {
            $scaled = $scaled->without($aliased);
            $newton = new NewtonFit($scaled, $y, $weights);
            $start = array_values(array_diff_key($start, array_flip($aliased)));
        }
        $width = \count($scaled->names);
        // One level with one outcome separates for certain: no need to watch its coefficient run away first.
        $separated = self::pureTerms($raw, $y);
        $ridge = 0.0;
        if (null === $separated) {
            try {
                $fit = $newton->run($start, $progress);
                $covariance = Cholesky::of($fit->information)->inverse();
                $separated = self::separation($fit, $covariance, $scaled->names, $weightSum);
            } catch (NotPositiveDefinite) {
                $separated = [];
            }
        }
        if (null !== $separated || !isset($fit, $covariance)) {
            $ridge = self::RIDGE;
            $fit = (new NewtonFit($scaled, $y, $weights, $ridge))->run($start, $progress);
            $covariance = Cholesky::of($fit->information)->inverse();
        }
        $keep = array_values(array_diff(array_keys($raw->names), $aliased));
        [$beta, $carried] = self::carryBack($fit->beta, $covariance, array_map(static fn (int $k) => $means[$k], $keep), array_map(static fn (int $k) => $spreads[$k], $keep));
        $coefficients = [];
        foreach ($keep as $place => $k) {
            $coefficients[] = new Coefficient($raw->names[$k], $beta[$place], $ridge > 0.0 ? null : sqrt(max(0.0, $carried[$place][$place])));
        }
        $null = $weightedPositives * log($weightedPositives / $weightSum) + ($weightSum - $weightedPositives) * log(1.0 - $weightedPositives / $weightSum);

        return new LogisticModel(
            $coding,
            $coefficients,
            $carried,
            array_map(static fn (int $k) => $means[$k], $keep),
            array_map(static fn (int $k) => $raw->names[$k], $aliased),
            $separated,
            $ridge,
            new LogisticFigures(\count($task->rows), $rowsUsed, $positives, $weightSum, $fit->logLikelihood, $null, $width, $fit->steps),
        );
    }

    /**
     * @param list<int> $rows
     *
     * @return array{list<list<float>>, list<list<float>>, int, int, float, float}
     */
    private static function outcome(Task $task, array $rows): array
    {
        $y = $weights = [];
        $positives = 0;
        $weightSum = $weightedPositives = 0.0;
        foreach (array_chunk($rows, Matrix::BLOCK) as $chunk) {
            $yBlock = $wBlock = [];
            foreach ($chunk as $row) {
                $w = $task->weights[$row] ?? 1.0;
                $event = $task->outcome[$row];
                $yBlock[] = $event;
                $wBlock[] = $w;
                $weightSum += $w;
                $weightedPositives += $w * $event;
                $positives += $event > 0.5 ? 1 : 0;
            }
            $y[] = $yBlock;
            $weights[] = $wBlock;
        }

        return [$y, $weights, \count($rows), $positives, $weightSum, $weightedPositives];
    }

    /**
     * @param list<list<float>> $weights
     *
     * @return array{Matrix, list<float>, list<float>} centered and scaled matrix, means, spreads (0 and 1 for the constant)
     */
    private static function standardized(Matrix $x, array $weights, float $weightSum): array
    {
        $width = \count($x->names);
        $means = array_fill(0, $width, 0.0);
        $spreads = array_fill(0, $width, 1.0);
        for ($j = 1; $j < $width; ++$j) {
            $sum = 0.0;
            foreach ($x->blocks as $b => $columns) {
                $w = $weights[$b];
                foreach ($columns[$j] as $r => $v) {
                    $sum += $w[$r] * $v;
                }
            }
            $mean = $sum / $weightSum;
            $largest = 0.0;
            foreach ($x->blocks as $columns) {
                $largest = max($largest, abs(max([$mean, ...$columns[$j]]) - $mean), abs(min([$mean, ...$columns[$j]]) - $mean));
            }
            // Squares of very large or very small numbers would leave what a double holds.
            $unit = $largest > 1e140 || ($largest > 0.0 && $largest < 1e-140) ? $largest : 1.0;
            $square = 0.0;
            foreach ($x->blocks as $b => $columns) {
                $w = $weights[$b];
                foreach ($columns[$j] as $r => $v) {
                    $d = ($v - $mean) / $unit;
                    $square += $w[$r] * $d * $d;
                }
            }
            $means[$j] = $mean;
            $spread = $unit * sqrt($square / $weightSum);
            $spreads[$j] = $spread > 1e-300 ? $spread : 1.0;
        }
        $blocks = [];
        foreach ($x->blocks as $columns) {
            $block = [$columns[0]];
            for ($j = 1; $j < $width; ++$j) {
                $mean = $means[$j];
                $scale = 1.0 / $spreads[$j];
                $out = [];
                foreach ($columns[$j] as $v) {
                    $out[] = ($v - $mean) * $scale;
                }
                $block[] = $out;
            }
            $blocks[] = $block;
        }

        /** @var list<float> $means */
        /** @var list<float> $spreads */
        return [new Matrix($blocks, $x->names, $x->rows), $means, $spreads];
    }

    /**
     * Where Newton's method begins: the constant that gives the overall share, or, on many rows, the fit of an eighth of them, which
     * saves about half of the passes over all.
     *
     * @param list<list<float>> $y
     * @param list<list<float>> $weights
     *
     * @return list<float>
     */
    private static function start(Matrix $x, array $y, array $weights, float $constant): array
    {
        $plain = array_fill(0, \count($x->names), 0.0);
        $plain[0] = $constant;
        /** @var list<float> $plain */
        if ($x->rows < self::SAMPLE_FROM) {
            return $plain;
        }
        $blocks = $sampleY = $sampleWeights = [];
        $rows = 0;
        for ($b = 0, $count = \count($x->blocks); $b < $count; $b += 8) {
            $blocks[] = $x->blocks[$b];
            $sampleY[] = $y[$b];
            $sampleWeights[] = $weights[$b];
            $rows += \count($y[$b]);
        }
        try {
            $fit = (new NewtonFit(new Matrix($blocks, $x->names, $rows), $sampleY, $sampleWeights))->run($plain, null, self::SAMPLE_ENOUGH);
            foreach ($fit->beta as $b) {
                // A sample that separates, or nearly repeats a column, is no place to begin.
                if (abs($b) > 5.0 && $fit->beta[0] !== $b) {
                    return $plain;
                }
            }

            return $fit->converged ? $fit->beta : $plain;
        } catch (NotPositiveDefinite) {
            return $plain;
        }
    }

    /**
     * @param list<list<float>> $y
     *
     * @return ?list<string> 0/1 terms of which one side has one outcome only
     */
    private static function pureTerms(Matrix $x, array $y): ?array
    {
        $pure = [];
        foreach ($x->names as $j => $name) {
            // Rows and events among those with 0 and with 1.
            $rows = $events = [0, 0];
            foreach ($x->blocks as $b => $columns) {
                foreach ($columns[$j] as $r => $v) {
                    if (0.0 !== $v && 1.0 !== $v) {
                        continue 3;
                    }
                    ++$rows[(int) $v];
                    $events[(int) $v] += $y[$b][$r] > 0.5 ? 1 : 0;
                }
            }
            foreach ([0, 1] as $side) {
                if ($j > 0 && $rows[1 - $side] > 0 && $rows[$side] > 0 && (0 === $events[$side] || $events[$side] === $rows[$side])) {
                    $pure[] = $name;
                    break;
                }
            }
        }

        return [] === $pure ? null : $pure;
    }

    /**
     * @param list<list<float>> $covariance
     * @param list<string>      $names
     *
     * @return ?list<string> the terms that run away; [] when the classes are completely separated; null when all is well
     */
    private static function separation(NewtonFit $fit, array $covariance, array $names, float $weightSum): ?array
    {
        if ($fit->logLikelihood > -1e-6 * $weightSum) {
            return [];
        }
        $running = [];
        foreach ($names as $j => $name) {
            if ($j > 0 && sqrt(max(0.0, $covariance[$j][$j])) > self::RUNAWAY) {
                $running[] = $name;
            }
        }

        return [] === $running && $fit->converged ? null : $running;
    }

    /**
     * From standardized columns to the columns as they came: β = T b, Cov β = T Cov b Tᵀ.
     *
     * @param list<float>       $b
     * @param list<list<float>> $covariance
     * @param list<float>       $means
     * @param list<float>       $spreads
     *
     * @return array{list<float>, list<list<float>>}
     */
    private static function carryBack(array $b, array $covariance, array $means, array $spreads): array
    {
        $width = \count($b);
        $beta = [$b[0]];
        for ($j = 1; $j < $width; ++$j) {
            $beta[$j] = $b[$j] / $spreads[$j];
            $beta[0] -= $beta[$j] * $means[$j];
        }
        $first = array_fill(0, $width, 0.0);
        $first[0] = 1.0;
        for ($j = 1; $j < $width; ++$j) {
            $first[$j] = -$means[$j] / $spreads[$j];
        }
        $carried = [];
        for ($i = 0; $i < $width; ++$i) {
            $row = [];
            for ($j = 0; $j < $width; ++$j) {
                $row[] = $i > 0 && $j > 0 ? $covariance[$i][$j] / ($spreads[$i] * $spreads[$j]) : 0.0;
            }
            $carried[] = $row;
        }
        $half = [];
        for ($j = 0; $j < $width; ++$j) {
            $sum = 0.0;
            for ($k = 0; $k < $width; ++$k) {
                $sum += $first[$k] * $covariance[$k][$j];
            }
            $half[] = $sum;
        }
        $sum = 0.0;
        for ($j = 0; $j < $width; ++$j) {
            $sum += $half[$j] * $first[$j];
        }
        $carried[0][0] = $sum;
        for ($j = 1; $j < $width; ++$j) {
            $carried[0][$j] = $carried[$j][0] = $half[$j] / $spreads[$j];
        }

        /** @var list<float> $beta */
        /** @var list<list<float>> $carried */
        return [$beta, $carried];
    }
}
