<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Design\Standardized;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\LearnerSetting;
use Dokimos\Core\Learn\Task;
use Dokimos\Core\Math\Cholesky;
use Dokimos\Core\Math\NotPositiveDefinite;
use Dokimos\Core\Progress;

/**
 * Logistic regression of several classes against the first of them, by Newton's method on all coefficients together. When the classes
 * are separated, a ridge of 1 on the standardized coefficients is added, and said. Formulas: docs/methods/logistic-regression.md.
 */
final readonly class MultinomialRegression implements Learner
{
    private const MOST = 400;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        LearnerSetting::values(self::described()->title, [], $given);
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner('multinomial', 'Multinomial regression', 'One sum of effects for each class against the first. Readable term by term.', [AboutLearner::MORE], []);
    }

    public function settings(): array
    {
        return [];
    }

    public function fit(Task $task, ?Progress $progress = null): MultinomialModel
    {
        if (null === $task->classes) {
            throw new CannotFit('Multinomial regression tells classes apart; this outcome is a number.');
        }
        $usable = $task->usable();
        $coding = Coding::learn($task->table, $task->inputs, $usable);
        $rows = $coding->complete($task->table, $usable);
        if ([] === $rows) {
            throw new CannotFit('No training row has a value in every column used. Fill or set aside the columns with missing values first.');
        }
        $counts = array_fill(0, \count($task->classes), 0.0);
        $y = $weights = [];
        $weightSum = 0.0;
        foreach (array_chunk($rows, Matrix::BLOCK) as $chunk) {
            $ys = $ws = [];
            foreach ($chunk as $row) {
                $ys[] = $class = (int) $task->outcome[$row];
                $ws[] = $w = $task->weights[$row] ?? 1.0;
                $counts[$class] += $w;
                $weightSum += $w;
            }
            $y[] = $ys;
            $weights[] = $ws;
        }
        if (\count(array_filter($counts)) < 2) {
            throw new CannotFit(\sprintf('All %s usable training rows have the same outcome, so there is nothing to tell apart.', number_format(\count($rows))));
        }
        $absent = array_keys(array_filter($counts, static fn (float $c) => $c <= 0.0));
        $raw = $coding->matrix($task->table, $rows);
        [$x, $means, $spreads] = Standardized::of($raw, $weights, $weightSum);
        $ones = new NewtonFit($x, array_map(static fn (array $ys): array => array_map(static fn (int $c): float => (float) (0 === $c), $ys), $y), $weights);
        $aliased = Cholesky::dependent($ones->informationAt(array_values(array_fill(0, \count($x->names), 0.0))));
        $x = $x->without($aliased);
        $keep = array_values(array_diff(array_keys($raw->names), $aliased));
        $width = \count($keep);
        if ($width * (\count($task->classes) - 1) > self::MOST) {
            throw new CannotFit(\sprintf('%s coefficients are too many for all to be fitted together; set columns aside or group rare values. At most %d are.', number_format($width * (\count($task->classes) - 1)), self::MOST));
        }
        $fit = new MultinomialFit($x, $y, $weights, \count($task->classes));
        $ridge = 0.0;
        try {
            $fit->run(0.0, $progress);
            // Chances that all are certain, or coefficients that ran away: the likelihood has no highest point.
            $separated = [] !== $absent || !$fit->converged || max([0.0, ...array_map(abs(...), $fit->beta)]) > 30.0;
        } catch (NotPositiveDefinite) {
            $separated = true;
        }
        if ($separated) {
            $ridge = 1.0;
            $fit->run($ridge, $progress);
        }
        $covariance = Cholesky::of($fit->information)->inverse();
        $means = array_map(static fn (int $k): float => $means[$k], $keep);
        $spreads = array_map(static fn (int $k): float => $spreads[$k], $keep);
        $coefficients = [];
        for ($c = 1; $c < \count($task->classes); ++$c) {
            $from = ($c - 1) * $width;
            $own = [];
            // Back to columns as they came: each slope over its spread, the constant less what centering took off.
            $constant = array_fill(0, $width, 0.0);
            $constant[0] = 1.0;
            for ($j = 0; $j < $width; ++$j) {
                $estimate = $fit->beta[$from + $j] / $spreads[$j];
                $own[$j] = new Coefficient($x->names[$j], $estimate, $ridge > 0.0 ? null : sqrt(max(0.0, $covariance[$from + $j][$from + $j])) / $spreads[$j]);
                if ($j > 0) {
                    $constant[$j] = -$means[$j] / $spreads[$j];
                }
            }
            $shift = $variance = 0.0;
            foreach ($constant as $i => $a) {
                $shift += $a * $fit->beta[$from + $i];
                foreach ($constant as $j => $b) {
                    $variance += $a * $b * $covariance[$from + $i][$from + $j];
                }
            }
            $own[0] = new Coefficient($x->names[0], $shift, $ridge > 0.0 ? null : sqrt(max(0.0, $variance)));
            $coefficients[] = array_values($own);
        }
        $null = 0.0;
        foreach ($counts as $count) {
            $null += $count > 0.0 ? $count * log($count / $weightSum) : 0.0;
        }

        return new MultinomialModel($coding, $task->classes, $coefficients, array_map(static fn (int $k): string => $raw->names[$k], $aliased), $ridge, \count($task->rows), \count($rows), $fit->logLikelihood, $null);
    }
}
