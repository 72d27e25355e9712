<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Linear;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\CodingExpression;
use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Learn\Account;
use Dokimos\Core\Learn\CanBeRead;
use Dokimos\Core\Learn\GivesAccount;
use Dokimos\Core\Learn\GivesReport;
use Dokimos\Core\Learn\Penalty;
use Dokimos\Core\Learn\Reported;
use Dokimos\Core\Learn\ReportsFit;
use Dokimos\Core\Learn\Selection\Choice;
use Dokimos\Core\Learn\ShownBend;
use Dokimos\Core\Learn\ShownCell;
use Dokimos\Core\Learn\ShownCoefficient;
use Dokimos\Core\Learn\ShownColumn;
use Dokimos\Core\Learn\ShownTable;
use Dokimos\Core\Learn\ShowsBends;
use Dokimos\Core\Learn\ShowsChoice;
use Dokimos\Core\Learn\ShowsCoefficients;
use Dokimos\Core\Learn\ShowsTables;
use Dokimos\Core\Math\Determinant;
use Dokimos\Core\Math\Distribution\FisherF;
use Dokimos\Core\Math\Distribution\StudentT;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** A sum of terms with their errors. */
final readonly class LinearModel implements CanBeRead, ShowsCoefficients, ShowsChoice, ReportsFit, GivesAccount, GivesReport, ShowsTables, ShowsBends, AsExpression
{
    /**
     * @param list<string>                                                   $names     of the terms kept, "(intercept)" first
     * @param list<float>                                                    $estimates
     * @param list<list<float>>                                              $inverse   of R: (X'X)^-1 = R^-1 R^-T
     * @param list<array<string, mixed>>                                     $trace     steps of the choice of columns, when there was one
     * @param list<string>                                                   $aliased   terms that said nothing of their own
     * @param list<array{price: float, terms: int, error: float, se: float}> $path      prices tried, when one was looked for
     * @param list<float>                                                    $means     of the terms kept over the training rows, 1 for the
     *                                                                                  intercept; [] in models of before
     */
    public function __construct(
        public Coding $coding,
        public array $names,
        public array $estimates,
        private array $inverse,
        public array $aliased,
        public LinearFigures $figures,
        public array $trace = [],
        public ?Penalty $penalty = null,
        public array $path = [],
        public array $means = [],
    ) {
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        return $this->coding->sums($table, array_combine($this->names, $this->estimates), $rows);
    }

    /** Residual standard error; null where errors do not exist. */
    public function sigma(): ?float
    {
        return null === $this->penalty ? $this->figures->sigma() : null;
    }

    /** Terms that a lasso has put out. */
    private function zeros(): int
    {
        return \count(array_filter($this->estimates, static fn (float $b) => 0.0 === $b));
    }

    /**
     * (X'X)^-1 between two terms.
     */
    private function unscaled(int $i, int $j): float
    {
        $sum = 0.0;
        foreach ($this->inverse[$i] as $k => $v) {
            $sum += $v * $this->inverse[$j][$k];
        }

        return $sum;
    }

    /**
     * x'(X'X)^-1 x: the leverage of a row.
     *
     * @param list<float> $x one value per term kept
     */
    public function leverage(array $x): float
    {
        $sum = 0.0;
        foreach ($x as $k => $_) {
            $dot = 0.0;
            foreach ($x as $i => $v) {
                $dot += $v * $this->inverse[$i][$k];
            }
            $sum += $dot * $dot;
        }

        return $sum;
    }

    /**
     * The terms kept of some rows.
     *
     * @param list<int> $rows
     *
     * @return list<list<float>> per row
     */
    public function terms(Table $table, array $rows): array
    {
        $matrix = $this->coding->matrix($table, $rows);
        $matrix = $matrix->without(array_keys(array_intersect($matrix->names, $this->aliased)));
        $out = [];
        foreach ($matrix->blocks() as $block) {
            foreach (array_keys($block[0]) as $r) {
                $out[] = array_map(static fn (array $column): float => $column[$r], $block);
            }
        }

        return $out;
    }

    /**
     * Per term; null where no error can be told.
     *
     * @return list<array{name: string, estimate: float, se: ?float, t: ?float, p: ?float, ci_low: ?float, ci_high: ?float}>
     */
    public function coefficients(): array
    {
        $sigma = $this->sigma();
        $t = null === $sigma ? null : new StudentT($this->figures->freedom());
        $reach = $t?->quantile(0.975);
        $out = [];
        foreach ($this->names as $j => $name) {
            $b = $this->estimates[$j];
            $se = null === $sigma ? null : $sigma * sqrt($this->unscaled($j, $j));
            $ratio = null === $se || 0.0 === $se ? null : $b / $se;
            $out[] = [
                'name' => $name,
                'estimate' => $b,
                'se' => $se,
                't' => $ratio,
                'p' => null === $ratio || null === $t ? null : $t->twoSided($ratio),
                'ci_low' => null === $se || null === $reach ? null : $b - $reach * $se,
                'ci_high' => null === $se || null === $reach ? null : $b + $reach * $se,
            ];
        }

        return $out;
    }

    /** @return list<array{name: string, vif: float}> variance inflation of each term beside the constant */
    public function inflation(): array
    {
        $out = [];
        foreach ($this->figures->sumsOfSquares as $j => $square) {
            $out[] = ['name' => $this->names[$j], 'vif' => $this->unscaled((int) $j, (int) $j) * $square];
        }

        return $out;
    }

    /**
     * Of each column: generalized inflation (Fox and Monette 1992), and the partial F of leaving it out.
     *
     * @return list<array{term: string, df: int, gvif: float, gvif_pow: float, rss_without: float, f: ?float, p: ?float}>
     */
    public function byColumn(): array
    {
        if (null !== $this->penalty) {
            return [];
        }
        $places = [];
        foreach ($this->coding->terms as $term) {
            $at = array_search($term->name(), $this->names, true);
            if (false !== $at) {
                $places[$term->column][] = $at;
            }
        }
        $sigma = $this->sigma();
        $out = [];
        foreach ($places as $column => $own) {
            $inverse = $correlation = [];
            foreach ($own as $i) {
                $inverse[] = array_map(fn (int $j): float => $this->unscaled($i, $j), $own);
            }
            foreach ($own as $a => $i) {
                $correlation[] = array_map(
                    fn (int $j, int $b): float => $inverse[$a][$b] * sqrt($this->figures->sumsOfSquares[$i] * $this->figures->sumsOfSquares[$j]),
                    $own,
                    array_keys($own),
                );
            }
            $df = \count($own);
            $b = array_map(fn (int $j): float => $this->estimates[$j], $own);
            $more = 0.0;
            foreach (Determinant::solve($inverse, $b) as $i => $v) {
                $more += $v * $b[$i];
            }
            $gvif = Determinant::of($correlation) * Determinant::of($this->ownCorrelation($own));
            $f = null === $sigma || 0.0 === $sigma ? null : $more / $df / ($sigma * $sigma);
            $out[] = [
                'term' => (string) $column,
                'df' => $df,
                'gvif' => $gvif,
                'gvif_pow' => $gvif ** (1 / (2 * $df)),
                'rss_without' => $this->figures->rss + $more,
                'f' => $f,
                'p' => null === $f ? null : (new FisherF($df, $this->figures->freedom()))->upper(max(0.0, $f)),
            ];
        }

        return $out;
    }

    /**
     * Correlations among terms, from R.
     *
     * @param list<int> $own
     *
     * @return list<list<float>>
     */
    private function ownCorrelation(array $own): array
    {
        // S = (centered X'X) is the inverse of the block of (X'X)^-1 without the constant.
        $all = array_map(intval(...), array_keys($this->figures->sumsOfSquares));
        $block = [];
        foreach ($all as $i) {
            $block[] = array_map(
                fn (int $j): float => $this->unscaled($i, $j) * sqrt($this->figures->sumsOfSquares[$i] * $this->figures->sumsOfSquares[$j]),
                $all,
            );
        }
        $at = array_flip($all);
        $out = [];
        foreach ($own as $i) {
            $unit = array_map(static fn (int $j): float => $j === $i ? 1.0 : 0.0, $all);
            $column = Determinant::solve($block, $unit);
            $out[] = array_map(static fn (int $j): float => $column[$at[$j]], $own);
        }

        return $out;
    }

    public function bends(): array
    {
        $places = array_flip($this->names);
        $sigma = $this->sigma();

        return ShownBend::all(
            $this->coding,
            array_combine($this->names, $this->estimates),
            null === $sigma || [] === $this->inverse ? null : fn (string $a, string $b): ?float => isset($places[$a], $places[$b])
                ? $sigma ** 2 * $this->unscaled($places[$a], $places[$b])
                : null,
        );
    }

    public function columns(): array
    {
        return $this->coding->columns;
    }

    public function reading(): int
    {
        return \count($this->names) - 1 - (null === $this->penalty ? 0 : $this->zeros());
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
        if (null === $this->penalty && $this->figures->freedom() <= 0) {
            $notes[] = 'There are as many terms as rows: the fit is exact and says nothing about its errors.';
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
        return LinearReport::of($this, $task)
            + (null === $wanted->new ? [] : ['predictions_new' => LinearReport::predictions($this, $wanted->new)])
            + ([] === $this->trace ? [] : ['selection' => ['final' => $this->columns(), 'trace' => $this->trace]]);
    }

    /** Where a price was looked for: what each costs and buys. */
    public function shownTables(): array
    {
        if ([] === $this->path || null === $this->penalty) {
            return [];
        }
        $rows = [];
        foreach ($this->path as $place) {
            $rows[] = [
                ShownCell::number($place['price']),
                ShownCell::number((float) $place['terms']),
                ShownCell::number($place['error'], $place['error'] - 1.96 * $place['se'], $place['error'] + 1.96 * $place['se']),
                ShownCell::text($place['price'] === $this->penalty->price ? 'taken' : ''),
            ];
        }

        return [new ShownTable(
            \sprintf('Held back by %s the error on held rows was least', (string) (float) \sprintf('%.3g', $this->penalty->price)),
            'Prices from the one that puts out every term down to next to nothing. The error is the mean square on the fifth of the rows that each fit did not see, with a 95% interval.',
            [
                new ShownColumn('Held back by', ShownColumn::NUMBER),
                new ShownColumn('Terms left', ShownColumn::NUMBER),
                new ShownColumn('Error on held rows', ShownColumn::NUMBER),
                new ShownColumn('', ShownColumn::TEXT),
            ],
            $rows,
        )];
    }

    public function toArray(): array
    {
        return [
            'learner' => 'linear',
            'coding' => $this->coding->toArray(),
            'names' => $this->names,
            'estimates' => $this->estimates,
            'inverse' => $this->inverse,
            'aliased' => $this->aliased,
            'figures' => $this->figures->stored(),
            'trace' => $this->trace,
            'penalty' => $this->penalty?->toArray(),
            'path' => $this->path,
            'means' => $this->means,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     coding: array<string, mixed>, names: list<string>, estimates: list<float|int>, inverse: list<list<float|int>>,
         *     aliased: list<string>, figures: array<string, mixed>, trace?: list<array<string, mixed>>,
         *     penalty?: ?array{kind: string, price: float|int, mix: float|int, objective: float|int},
         *     path?: list<array{price: float, terms: int, error: float, se: float}>, means?: list<float|int>,
         * } $data
         */
        return new self(
            Coding::fromArray($data['coding']),
            $data['names'],
            array_map(floatval(...), $data['estimates']),
            array_map(static fn (array $row) => array_map(floatval(...), $row), $data['inverse']),
            $data['aliased'],
            LinearFigures::fromArray($data['figures']),
            $data['trace'] ?? [],
            isset($data['penalty']) ? Penalty::fromArray($data['penalty']) : null,
            $data['path'] ?? [],
            array_map(floatval(...), $data['means'] ?? []),
        );
    }

    public function coding(): Coding
    {
        return $this->coding;
    }

    public function shownCoefficients(): array
    {
        $inflation = array_column($this->inflation(), 'vif', 'name');

        return array_map(
            static fn (array $c): ShownCoefficient => new ShownCoefficient(
                $c['name'],
                null,
                $c['estimate'],
                $c['se'],
                $c['t'],
                $c['p'],
                $c['ci_low'],
                $c['ci_high'],
                inflation: $inflation[$c['name']] ?? null,
            ),
            $this->coefficients(),
        );
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
        if ([] === $this->means || [] === $this->coding->complete($prepared, [$row])) {
            return null;
        }
        $x = $this->terms($prepared, [$row])[0];
        $terms = array_map(
            static fn (string $name, float $b, float $v, float $mean): array => [$name, $b, $v, $mean],
            $this->names,
            $this->estimates,
            $x,
            $this->means,
        );
        [$base, $columns] = Account::of($this->coding, $terms, $prepared, $row);

        // Effects in the unit of the number: those of a hundredth of the largest say nothing beside it.
        return new Account($base, $columns, 0.01 * abs($columns[0]['effect'] ?? 0.0));
    }

    public function expressions(Frame $frame): array
    {
        return [CodingExpression::sum($this->coding, $frame, array_combine($this->names, $this->estimates))];
    }
}
