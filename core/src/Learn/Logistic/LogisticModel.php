<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\CodingExpression;
use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Learn\Account;
use Dokimos\Core\Learn\CanBeRead;
use Dokimos\Core\Learn\GivesAccount;
use Dokimos\Core\Learn\GivesReport;
use Dokimos\Core\Learn\Penalty;
use Dokimos\Core\Learn\Reported;
use Dokimos\Core\Learn\ReportsFit;
use Dokimos\Core\Learn\Selection\Choice;
use Dokimos\Core\Learn\ShownBend;
use Dokimos\Core\Learn\ShowsBends;
use Dokimos\Core\Learn\ShowsChoice;
use Dokimos\Core\Learn\ShowsCoefficients;
use Dokimos\Core\Learn\TakesShift;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** A fitted logistic regression. */
final readonly class LogisticModel implements CanBeRead, ShowsCoefficients, ShowsChoice, ReportsFit, GivesAccount, TakesShift, GivesReport, ShowsBends, AsExpression
{
    /**
     * @param list<Coefficient>          $coefficients the constant first
     * @param list<list<float>>          $covariance   of the coefficients; [] where there are no errors
     * @param list<float>                $means        of the matrix columns over the training rows; 0 for the constant
     * @param list<string>               $aliased      terms left out because they repeat others
     * @param ?list<string>              $separated    terms that separate the classes; [] = completely; null = not separated
     * @param list<array<string, mixed>> $trace        steps of the choice of columns, when there was one
     */
    public function __construct(
        public Coding $coding,
        public array $coefficients,
        public array $covariance,
        public array $means,
        public array $aliased,
        public ?array $separated,
        public float $ridge,
        public LogisticFigures $figures,
        public array $trace = [],
        public ?Penalty $penalty = null,
        private bool $balanced = false,
    ) {
    }

    /** The same slopes, with chances as classes occur; errors of rows that were weighted or left out are none. */
    public function broughtBack(float $shift): self
    {
        $coefficients = array_map(
            static fn (Coefficient $c): Coefficient => new Coefficient(
                $c->name,
                $c->estimate + ('(intercept)' === $c->name ? $shift : 0.0),
                null,
            ),
            $this->coefficients,
        );

        return new self(
            $this->coding,
            $coefficients,
            [],
            $this->means,
            $this->aliased,
            $this->separated,
            $this->ridge,
            $this->figures,
            $this->trace,
            $this->penalty,
            true,
        );
    }

    public function bends(): array
    {
        $places = array_flip(array_map(static fn (Coefficient $c): string => $c->name, $this->coefficients));

        return ShownBend::all(
            $this->coding,
            array_column(array_map(static fn (Coefficient $c): array => [$c->name, $c->estimate], $this->coefficients), 1, 0),
            [] === $this->covariance
                ? null
                : fn (string $a, string $b): ?float => $this->covariance[$places[$a] ?? -1][$places[$b] ?? -1] ?? null,
        );
    }

    public function columns(): array
    {
        return $this->coding->columns;
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        $chances = [];
        foreach ($this->linearPredictor($table, $rows) as $eta) {
            $chances[] = self::chance($eta);
        }

        return $chances;
    }

    public function shifted(float $a, float $b): self
    {
        $moved = array_map(
            static fn (Coefficient $c, int $j): Coefficient => new Coefficient($c->name, $b * $c->estimate + (0 === $j ? $a : 0.0), null),
            $this->coefficients,
            array_keys($this->coefficients),
        );

        return new self(
            $this->coding,
            $moved,
            [],
            $this->means,
            $this->aliased,
            $this->separated,
            $this->ridge,
            $this->figures,
            $this->trace,
            $this->penalty,
            $this->balanced,
        );
    }

    public static function chance(float $eta): float
    {
        return $eta >= 0.0 ? 1.0 / (1.0 + exp(-$eta)) : exp($eta) / (1.0 + exp($eta));
    }

    /**
     * @param ?list<int> $rows
     *
     * @return list<float> log-odds per row, NAN where a needed value is missing
     */
    public function linearPredictor(Table $table, ?array $rows = null): array
    {
        $coefficients = [];
        foreach ($this->coefficients as $c) {
            $coefficients[$c->name] = $c->estimate;
        }

        return $this->coding->sums($table, $coefficients, $rows);
    }

    /**
     * The matrix of the terms kept.
     *
     * @param list<int> $rows
     */
    public function matrix(Table $table, array $rows): Matrix
    {
        $matrix = $this->coding->matrix($table, $rows);

        return $matrix->without(array_keys(array_intersect($matrix->names, $this->aliased)));
    }

    /**
     * Standard error of the log-odds: sqrt(xᵀ Cov x); null where the coefficients have no errors.
     *
     * @param list<float> $x one value per coefficient
     */
    public function standardError(array $x): ?float
    {
        if ([] === $this->covariance) {
            return null;
        }
        $sum = 0.0;
        foreach ($x as $i => $xi) {
            foreach ($x as $j => $xj) {
                // In this order, since the square of a very large value would leave what a double holds.
                $sum += $xi * $this->covariance[$i][$j] * $xj;
            }
        }

        return sqrt(max(0.0, $sum));
    }

    /** Terms that a lasso has put out. */
    private function zeros(): int
    {
        return \count(array_filter($this->coefficients, static fn (Coefficient $c) => 0.0 === $c->estimate));
    }

    public function reading(): int
    {
        return \count($this->coefficients) - 1 - $this->zeros();
    }

    public function size(): string
    {
        $terms = $this->reading();

        return 1 === $terms ? '1 term' : number_format($terms).' terms';
    }

    public function notes(): array
    {
        $notes = [];
        foreach ($this->coding->leftOut as $column => $why) {
            $notes[] = \sprintf('%s is not used: %s.', $column, $why);
        }
        if ([] !== $this->aliased) {
            $notes[] = \sprintf(
                '%s said nothing that the other terms do not already say, and %s left out.',
                implode(', ', $this->aliased),
                1 === \count($this->aliased) ? 'was' : 'were',
            );
        }
        if (null !== $this->penalty) {
            $notes[] = $this->penalty->sentence($this->zeros());
        }
        array_push($notes, ...Choice::notes($this->trace, $this->coding->columns));
        if ($this->balanced) {
            $notes[] = 'Rare classes were made to count as much as frequent ones while fitting; chances are brought back to how often they occur. Errors and p-values would not hold and are left out.';
        } elseif ([] === $this->covariance && null === $this->penalty) {
            $notes[] = 'So many terms are fitted by their slopes alone: errors and p-values are not computed.';
        }
        if (null !== $this->separated) {
            $notes[] = \sprintf(
                '%s The likelihood has no highest point (separation), so a ridge of %s was added to keep the coefficients finite; errors and p-values do not exist.',
                [] === $this->separated ? 'The inputs separate the two classes completely.' : \sprintf(
                    '%s %s one class completely (quasi-complete separation).',
                    implode(', ', $this->separated),
                    1 === \count($this->separated) ? 'singles out' : 'single out',
                ),
                json_encode($this->ridge),
            );
        }
        $left = $this->figures->rowsTotal - $this->figures->rowsUsed;
        if ($left > 0) {
            $notes[] = \sprintf(
                '%s of %s training rows have a missing value in a column used and taught the model nothing.',
                number_format($left),
                number_format($this->figures->rowsTotal),
            );
        }

        return $notes;
    }

    public function report(Task $task, Reported $wanted): array
    {
        return LogisticReport::of($this, $task, $wanted);
    }

    public function toArray(): array
    {
        return [
            'learner' => 'logistic',
            'coding' => $this->coding->toArray(),
            'coefficients' => array_map(static fn (Coefficient $c) => $c->toArray(), $this->coefficients),
            'covariance' => base64_encode(pack('e*', ...array_merge([], ...$this->covariance))),
            'means' => $this->means,
            'aliased' => $this->aliased,
            'separated' => $this->separated,
            'ridge' => $this->ridge,
            'figures' => $this->figures->toArray(),
            'trace' => $this->trace,
            'penalty' => $this->penalty?->toArray(),
            'balanced' => $this->balanced,
        ];
    }

    /** @param array<string, mixed> $data as written by toArray() */
    public static function fromArray(array $data): self
    {
        /** @var array{coding: array<string, mixed>, coefficients: list<array{name: string, estimate: float, se: ?float}>, covariance: string, means: list<float>, aliased: list<string>, separated: ?list<string>, ridge: float, figures: array<string, int|float|null>, trace?: list<array<string, mixed>>, penalty?: ?array{kind: string, price: float|int, mix: float|int, objective: float|int}, balanced?: bool} $data */
        $coefficients = array_map(
            static fn (array $c) => new Coefficient($c['name'], (float) $c['estimate'], null === $c['se'] ? null : (float) $c['se']),
            $data['coefficients'],
        );
        /** @var array<int, float> $flat */
        $flat = unpack('e*', (string) base64_decode($data['covariance'], true)) ?: [];

        return new self(
            Coding::fromArray($data['coding']),
            $coefficients,
            array_chunk(array_values($flat), max(1, \count($coefficients))),
            array_map(floatval(...), $data['means']),
            $data['aliased'],
            $data['separated'],
            (float) $data['ridge'],
            LogisticFigures::fromArray($data['figures']),
            $data['trace'] ?? [],
            isset($data['penalty']) ? Penalty::fromArray($data['penalty']) : null,
            $data['balanced'] ?? false,
        );
    }

    public function coding(): Coding
    {
        return $this->coding;
    }

    public function shownCoefficients(): array
    {
        return array_map(static fn (Coefficient $c) => $c->shown(null), $this->coefficients);
    }

    public function trace(): array
    {
        return $this->trace;
    }

    public function fit(): array
    {
        return $this->figures->toArray();
    }

    public function account(Table $prepared, int $row): ?Account
    {
        if ([] === $this->coding->complete($prepared, [$row])) {
            return null;
        }
        $x = array_map(static fn (array $column) => $column[0], $this->matrix($prepared, [$row])->block(0));
        $terms = [];
        foreach ($this->coefficients as $j => $c) {
            $terms[] = [$c->name, $c->estimate, $x[$j], 0 === $j ? 1.0 : $this->means[$j]];
        }
        [$base, $columns] = Account::of($this->coding, $terms, $prepared, $row);
        $logOdds = $base + array_sum(array_column($columns, 'effect'));
        $error = $this->standardError($x);

        return new Account(
            $base,
            $columns,
            0.005,
            $logOdds,
            null === $error ? null : self::chance($logOdds - Normal::Z95 * $error),
            null === $error ? null : self::chance($logOdds + Normal::Z95 * $error),
        );
    }

    public function expressions(Frame $frame): array
    {
        $coefficients = array_column(array_map(static fn (Coefficient $c): array => [$c->name, $c->estimate], $this->coefficients), 1, 0);

        return [Operation::chance(CodingExpression::sum($this->coding, $frame, $coefficients))];
    }
}
