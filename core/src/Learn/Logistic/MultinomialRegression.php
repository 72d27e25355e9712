<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Design\Reading;
use Dokimos\Core\Design\Standardized;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\Balance;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\Penalty;
use Dokimos\Core\Learn\Readings;
use Dokimos\Core\Learn\Room;
use Dokimos\Core\Learn\Selection\Choice;
use Dokimos\Core\Math\Cholesky;
use Dokimos\Core\Math\NotPositiveDefinite;
use Dokimos\Core\Progress;
use Dokimos\Core\Silent;
use Dokimos\Core\Task\Task;

/**
 * Logistic regression of several classes against the first of them, by Newton's method on all coefficients together. When the classes
 * are separated, a ridge of 1 on the standardized coefficients is added, and said. Formulas: docs/methods/logistic-regression.md.
 */
final readonly class MultinomialRegression implements Learner
{
    /** Coefficients of all classes together, beyond which they are fitted by their slopes alone. */
    private const MOST = 400;

    /** @var array<string, string|float|int|bool> */
    private array $settings;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        $this->settings = GivenSettings::of(self::described()->title, self::described()->settings, $given);
        $this->reading();
    }

    public static function card(): Card
    {
        return new Card(
            6,
            MultinomialModel::class,
            80,
            0,
            15,
            20,
            searched: [
                'penalty' => ['list' => ['ridge', 'lasso']],
                'price' => ['from' => 0.3, 'to' => 100, 'by' => 'factors'],
                'missing' => 'fill and mark',
            ],
            straight: ['penalty' => 'ridge', 'price' => 1.0, 'missing' => 'fill and mark'],
        );
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner(
            'multinomial',
            'Multinomial regression',
            'One sum of effects for each class against the first. Readable term by term.',
            [Task::MORE],
            [...Penalty::settings(), ...Readings::settings(), Balance::setting(), ...Choice::settings()],
            quick: true,
        );
    }

    public function settings(): array
    {
        return $this->settings;
    }

    /** @throws CannotFit Multinomial regression tells classes apart; this outcome is a number. */
    public function fit(Task $task, ?Progress $progress = null): MultinomialModel
    {
        if (null === $task->classes) {
            throw new CannotFit('Multinomial regression tells classes apart; this outcome is a number.');
        }
        Readings::demand($this->reading(), $task);
        $balance = Balance::of($task, (string) $this->settings['balance']);
        $task = $balance->task;
        if (Choice::isAll($this->settings)) {
            return $this->fitted($task, $balance, [], $progress);
        }
        $usable = $task->usable();
        $all = $task->coding($usable, $this->reading());
        // The same rows for every candidate, or their likelihoods could not be compared.
        $rows = $all->complete($task->table, $usable);
        $of = static fn (array $columns, array $rows): Task => $task->on(
            array_values(array_filter($rows, is_int(...))),
            array_values(array_filter($columns, is_string(...))),
        );
        $chosen = Choice::of($this->settings, $all, $task, $rows, function (array $columns, array $rows) use ($of, $balance): array {
            $model = $this->fitted($of($columns, $rows), $balance, []);

            return [$model, $model->candidate()];
        }, $progress ?? new Silent());

        return $this->fitted($of([...$chosen['final'], ...$all->unused()], $rows), $balance, $chosen['trace'], $progress);
    }

    private function reading(): Reading
    {
        return Readings::of($this->settings);
    }

    /** @param list<array<string, mixed>> $trace */
    private function fitted(Task $task, Balance $balance, array $trace, ?Progress $progress = null): MultinomialModel
    {
        $classes = $task->classes ?? [];
        $usable = $task->usable();
        $coding = $task->coding($usable, $this->reading());
        $rows = $coding->complete($task->table, $usable);
        if ([] === $rows) {
            throw new CannotFit('No training row has a value in every column used. Fill or set aside the columns with missing values first.');
        }
        $counts = array_fill(0, \count($classes), 0.0);
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
            throw new CannotFit(\sprintf(
                'All %s usable training rows have the same outcome, so there is nothing to tell apart.',
                number_format(\count($rows)),
            ));
        }
        $absent = array_keys(array_filter($counts, static fn (float $c) => $c <= 0.0));
        Room::demand(\count($rows), \count($coding->terms) + 1, 3);
        $raw = $coding->matrix($task->table, $rows, true);
        [$x, $means, $spreads] = Standardized::of($raw, $weights, $weightSum, Penalty::scales($this->settings));
        $penalty = Penalty::of($this->settings);
        $aliased = [];
        if (null === $penalty && \count($x->names) <= self::MOST) {
            $ones = new NewtonFit(
                $x,
                array_map(static fn (array $ys): array => array_map(static fn (int $c): float => (float) (0 === $c), $ys), $y),
                $weights,
            );
            $aliased = Cholesky::dependent($ones->informationAt(array_values(array_fill(0, \count($x->names), 0.0))));
            $x = $x->without($aliased);
        }
        $keep = array_values(array_diff(array_keys($raw->names), $aliased));
        [$fit, $covariance, $ridge] = null === $penalty ? self::highest(
            $x,
            $y,
            $weights,
            \count($classes),
            [] !== $absent,
            $progress,
        ) : [null, [], 0.0];
        if (null === $fit) {
            \assert(null !== $penalty);
            $smooth = new MultinomialFit($x, $y, $weights, \count($classes), $penalty->price * (1 - $penalty->mix));
            $fit = (new SparseFit($smooth, $penalty->price * $penalty->mix))->run(
                array_values(array_fill(0, \count($keep) * (\count($classes) - 1), 0.0)),
                $progress,
            );
            $penalty = $penalty->reaching($fit->objective);
        }
        $coefficients = self::carriedBack(
            $fit->beta,
            $covariance,
            $x->names,
            array_map(static fn (int $k): float => $means[$k], $keep),
            array_map(static fn (int $k): float => $spreads[$k], $keep),
        );
        if (null !== $balance->factors) {
            $shifts = $balance->shifts();
            // Errors of rows that were weighted or left out are none.
            $coefficients = array_map(
                static fn (array $own, int $k): array => array_map(
                    static fn (Coefficient $c): Coefficient => new Coefficient(
                        $c->name,
                        $c->estimate + ('(intercept)' === $c->name ? $shifts[$k + 1] - $shifts[0] : 0.0),
                        null,
                    ),
                    $own,
                ),
                $coefficients,
                array_keys($coefficients),
            );
        }
        $null = 0.0;
        foreach ($counts as $count) {
            $null += $count > 0.0 ? $count * log($count / $weightSum) : 0.0;
        }

        return new MultinomialModel(
            $coding,
            $classes,
            $coefficients,
            array_map(static fn (int $k): string => $raw->names[$k], $aliased),
            $ridge,
            \count($task->rows),
            \count($rows),
            $fit->logLikelihood,
            $null,
            $penalty,
            null !== $balance->factors,
            $trace,
        );
    }

    /**
     * @param list<list<int>>   $y
     * @param list<list<float>> $weights
     *
     * @return array{MultinomialFit, list<list<float>>, float} the fit, the covariance ([] where there is none), the ridge that had to be added
     */
    private static function highest(Matrix $x, array $y, array $weights, int $classes, bool $absent, ?Progress $progress): array
    {
        $many = \count($x->names) * ($classes - 1) > self::MOST;
        foreach ([0.0, 1.0] as $ridge) {
            $fit = new MultinomialFit($x, $y, $weights, $classes, $ridge);
            try {
                $many ? $fit->climb($progress) : $fit->run($progress);
                // Chances that all are certain, or coefficients that ran away: the likelihood has no highest point.
                if ($ridge > 0.0 || (!$absent && $fit->converged && max([
                    0.0,
                    ...array_map(abs(...), $fit->beta),
                ]) <= MultinomialFit::RUNAWAY)) {
                    break;
                }
            } catch (NotPositiveDefinite $e) {
                if ($ridge > 0.0) {
                    throw $e;
                }
            }
        }

        return [$fit, $many || $ridge > 0.0 ? [] : Cholesky::of($fit->information)->inverse(), $ridge];
    }

    /**
     * Back to columns as they came: each slope over its spread, the constant less what centering took off.
     *
     * @param list<float>       $beta       class after class
     * @param list<list<float>> $covariance [] where there is none
     * @param list<string>      $names
     * @param list<float>       $means
     * @param list<float>       $spreads
     *
     * @return list<list<Coefficient>> per class but the first
     */
    private static function carriedBack(array $beta, array $covariance, array $names, array $means, array $spreads): array
    {
        $width = \count($names);
        $constant = [1.0];
        for ($j = 1; $j < $width; ++$j) {
            $constant[] = -$means[$j] / $spreads[$j];
        }
        $error = static fn (float $variance): ?float => [] === $covariance ? null : sqrt(max(0.0, $variance));
        $coefficients = [];
        for ($from = 0, $all = \count($beta); $from < $all; $from += $width) {
            $own = [];
            $shift = $variance = 0.0;
            for ($i = 0; $i < $width; ++$i) {
                $shift += $constant[$i] * $beta[$from + $i];
                for ($j = 0; [] !== $covariance && $j < $width; ++$j) {
                    $variance += $constant[$i] * $constant[$j] * $covariance[$from + $i][$from + $j];
                }
                $own[] = new Coefficient(
                    $names[$i],
                    $beta[$from + $i] / $spreads[$i],
                    $error(([] === $covariance ? 0.0 : $covariance[$from + $i][$from + $i]) / $spreads[$i] ** 2),
                );
            }
            $own[0] = new Coefficient($names[0], $shift, $error($variance));
            $coefficients[] = $own;
        }

        return $coefficients;
    }
}
