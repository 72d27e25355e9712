<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Design\Reading;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\Balance;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\Penalty;
use Dokimos\Core\Learn\Readings;
use Dokimos\Core\Learn\Selection\Candidate;
use Dokimos\Core\Learn\Selection\Choice;
use Dokimos\Core\Math\Cholesky;
use Dokimos\Core\Math\Lbfgs;
use Dokimos\Core\Math\NotPositiveDefinite;
use Dokimos\Core\Progress;
use Dokimos\Core\Silent;
use Dokimos\Core\Task\Task;

/**
 * Logistic regression by maximum likelihood.
 *
 * Columns are centered and scaled for the computation and the result is carried back, so that a date or an amount in cents costs no
 * digits. Terms that only repeat others are left out and named. When the classes are separated, the estimate does not exist: a ridge
 * of 1 on the standardized coefficients is added, and said.
 */
final readonly class LogisticRegression implements Learner
{
    private const RIDGE = 1.0;
    /** Terms beyond which the fit goes by slopes alone (L-BFGS). */
    private const MOST = 500;
    private const SAMPLE_FROM = 30000;
    /** The estimate of a sample is a place to begin, itself wrong by more than this. */
    private const SAMPLE_ENOUGH = 1.0;

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
            LogisticModel::class,
            80,
            0,
            15,
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
        return new AboutLearner('logistic', 'Logistic regression', 'Adds up one effect per column. Readable term by term, quick, and hard to beat when effects are steady.', [Task::TWO], [
            ...Penalty::settings(),
            ...Readings::settings(),
            Balance::setting(),
            ...Choice::settings(),
        ], quick: true);
    }

    public function settings(): array
    {
        return $this->settings;
    }

    private function reading(): Reading
    {
        return Readings::of($this->settings);
    }

    public function fit(Task $task, ?Progress $progress = null): LogisticModel
    {
        Readings::demand($this->reading(), $task);
        $balance = Balance::of($task, (string) $this->settings['balance']);
        $model = $this->plain($balance->task, $progress);

        return null === $balance->factors ? $model : $model->broughtBack($balance->shifts()[1] - $balance->shifts()[0]);
    }

    private function plain(Task $task, ?Progress $progress): LogisticModel
    {
        if (Choice::isAll($this->settings)) {
            return $this->fitted($this->design($task), [], $progress);
        }
        $usable = $task->usable();
        $all = $task->coding($usable, $this->reading());
        // The same rows for every candidate, or their likelihoods could not be compared.
        $rows = $all->complete($task->table, $usable);
        $of = static fn (array $columns, array $rows): Task => $task->on(
            array_values(array_filter($rows, is_int(...))),
            array_values(array_filter($columns, is_string(...))),
        );
        $designs = new DesignsByRows(fn (array $rows): LogisticDesign => $this->design($of($all->columns, $rows)));
        $before = new NearestFit();
        $chosen = Choice::of($this->settings, $all, $task, $rows, function (array $columns, array $rows) use ($designs, $before): array {
            $design = $designs->on($rows)->only($columns);
            $near = $before->to($columns);
            $model = $this->fitted($design, [], null, null === $near ? null : $design->near($near));
            $before->keep($columns, $model);

            return [$model, new Candidate($model->figures->logLikelihood, $model->figures->parameters, $model->figures->rowsUsed)];
        }, $progress ?? new Silent());

        return $this->fitted($this->design($of([...$chosen['final'], ...$all->unused()], $rows)), $chosen['trace'], $progress);
    }

    private function design(Task $task): LogisticDesign
    {
        return LogisticDesign::of($task, $this->reading(), Penalty::scales($this->settings));
    }

    /**
     * @param list<array<string, mixed>> $trace
     * @param ?list<float>               $near  where Newton's method may begin
     */
    private function fitted(LogisticDesign $design, array $trace, ?Progress $progress = null, ?array $near = null): LogisticModel
    {
        $penalty = Penalty::of($this->settings);
        if (null !== $penalty) {
            return self::heldBack($penalty, $design, $trace, $progress);
        }
        $scaled = $design->scaled;
        if (\count($scaled->names) > self::MOST) {
            return self::climbed($design, $trace, $progress);
        }
        $start = $near ?? self::start($scaled, $design->y, $design->weights, $design->constant());
        $newton = new NewtonFit($scaled, $design->y, $design->weights);
        $aliased = Cholesky::dependent($newton->informationAt($start));
        if ([] !== $aliased) {
            $scaled = $scaled->without($aliased);
            $newton = new NewtonFit($scaled, $design->y, $design->weights);
            $start = array_values(array_diff_key($start, array_flip($aliased)));
        }
        $width = \count($scaled->names);
        // One level with one outcome separates for certain: no need to watch its coefficient run away first.
        $separated = Separation::pure($design->raw, $design->y);
        $ridge = 0.0;
        if (null === $separated) {
            try {
                $fit = $newton->run($start, $progress);
                $covariance = Cholesky::of($fit->information)->inverse();
                $separated = Separation::found($fit, $covariance, $scaled->names, $design->weightSum);
            } catch (NotPositiveDefinite) {
                $separated = [];
            }
        }
        if (null !== $separated || !isset($fit, $covariance)) {
            $ridge = self::RIDGE;
            $fit = (new NewtonFit($scaled, $design->y, $design->weights, $ridge))->run($start, $progress);
            $covariance = Cholesky::of($fit->information)->inverse();
        }
        $keep = array_values(array_diff(array_keys($design->raw->names), $aliased));
        $means = array_map(static fn (int $k): float => $design->means[$k], $keep);
        [$beta, $carried] = Carried::back(
            $fit->beta,
            $covariance,
            $means,
            array_map(static fn (int $k): float => $design->spreads[$k], $keep),
        );
        $coefficients = [];
        foreach ($keep as $place => $k) {
            $coefficients[] = new Coefficient(
                $design->raw->names[$k],
                $beta[$place],
                $ridge > 0.0 ? null : sqrt(max(0.0, $carried[$place][$place])),
            );
        }

        return new LogisticModel(
            $design->coding,
            $coefficients,
            $carried,
            $means,
            array_map(static fn (int $k): string => $design->raw->names[$k], $aliased),
            $separated,
            $ridge,
            $design->figures($fit->logLikelihood, $width, $fit->steps),
            $trace,
        );
    }

    /** @param list<array<string, mixed>> $trace */
    private static function heldBack(Penalty $penalty, LogisticDesign $design, array $trace, ?Progress $progress): LogisticModel
    {
        $width = \count($design->scaled->names);
        $start = array_fill(0, $width, 0.0);
        $start[0] = $design->constant();
        $fit = (new SparseFit(
            new NewtonFit($design->scaled, $design->y, $design->weights, $penalty->price * (1 - $penalty->mix)),
            $penalty->price * $penalty->mix,
        ))->run(array_values($start), $progress);
        $nothing = array_values(array_fill(0, $width, array_values(array_fill(0, $width, 0.0))));
        [$beta] = Carried::back($fit->beta, $nothing, $design->means, $design->spreads);
        $coefficients = array_map(
            static fn (string $name, float $b): Coefficient => new Coefficient($name, $b, null),
            $design->scaled->names,
            $beta,
        );
        $kept = \count(array_filter($fit->beta, static fn (float $b) => 0.0 !== $b));

        return new LogisticModel(
            $design->coding,
            $coefficients,
            $nothing,
            $design->means,
            [],
            null,
            0.0,
            $design->figures($fit->logLikelihood, $kept, 0),
            $trace,
            $penalty->reaching($fit->objective),
        );
    }

    /**
     * By slopes alone, where the table of curvatures would be too large.
     *
     * @param list<array<string, mixed>> $trace
     */
    private static function climbed(LogisticDesign $design, array $trace, ?Progress $progress): LogisticModel
    {
        $width = \count($design->scaled->names);
        $nothing = array_values(array_fill(0, $width, 0.0));
        $separated = null;
        foreach ([0.0, self::RIDGE] as $ridge) {
            $fit = new NewtonFit($design->scaled, $design->y, $design->weights, $ridge);
            $found = Lbfgs::highest($nothing, $fit->slope(...), $progress);
            if ($ridge > 0.0 || ($found['converged'] && max([0.0, ...array_map(abs(...), $found['place'])]) <= 30.0)) {
                break;
            }
            $separated = [];
        }
        $beta = $found['place'];
        for ($j = 1; $j < $width; ++$j) {
            $beta[$j] /= $design->spreads[$j];
            $beta[0] -= $beta[$j] * $design->means[$j];
        }

        return new LogisticModel(
            $design->coding,
            array_map(static fn (string $name, float $b): Coefficient => new Coefficient($name, $b, null), $design->scaled->names, $beta),
            [],
            $design->means,
            [],
            $separated,
            $ridge,
            $design->figures($found['value'] + $fit->penalty($found['place']), $width, $found['steps']),
            $trace,
        );
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
        for ($b = 0, $count = $x->count(); $b < $count; $b += 8) {
            $blocks[] = $x->block($b);
            $sampleY[] = $y[$b];
            $sampleWeights[] = $weights[$b];
            $rows += \count($y[$b]);
        }
        try {
            $fit = (new NewtonFit(
                Matrix::ofBlocks($blocks, $x->names, $rows),
                $sampleY,
                $sampleWeights,
            ))->run($plain, null, self::SAMPLE_ENOUGH);
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
}
