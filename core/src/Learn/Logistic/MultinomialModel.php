<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\CodingExpression;
use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Shares;
use Dokimos\Core\Learn\CanBeRead;
use Dokimos\Core\Learn\GivesReport;
use Dokimos\Core\Learn\Penalty;
use Dokimos\Core\Learn\Reported;
use Dokimos\Core\Learn\Selection\Candidate;
use Dokimos\Core\Learn\Selection\Choice;
use Dokimos\Core\Learn\ShowsChoice;
use Dokimos\Core\Learn\ShowsCoefficients;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Math\Distribution\ChiSquare;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** Coefficients of every class but the first; the chances add up to 1. */
final readonly class MultinomialModel implements CanBeRead, TellsClasses, ShowsCoefficients, ShowsChoice, GivesReport, AsExpression
{
    /**
     * @param list<string>               $classes      the first is the one the others are compared with
     * @param list<list<Coefficient>>    $coefficients per class from the second on
     * @param list<string>               $aliased      terms that said nothing of their own
     * @param float                      $ridge        added because the classes are separated; 0 = none
     * @param list<array<string, mixed>> $trace        steps of the choice of columns, when there was one
     */
    public function __construct(public Coding $coding, private array $classes, public array $coefficients, private array $aliased, public float $ridge, private int $rowsTotal, private int $rowsUsed, private float $logLikelihood, private float $nullLogLikelihood, private ?Penalty $penalty = null, private bool $balanced = false, public array $trace = [])
    {
    }

    public function classes(): array
    {
        return $this->classes;
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        $shares = $this->shares($table, $rows);

        return $shares[\count($shares) - 1];
    }

    public function shares(Table $table, ?array $rows = null): array
    {
        $sums = [];
        foreach ($this->coefficients as $own) {
            $byName = [];
            foreach ($own as $c) {
                $byName[$c->name] = $c->estimate;
            }
            $sums[] = $this->coding->sums($table, $byName, $rows);
        }
        $out = array_fill(0, \count($this->classes), []);
        foreach ($sums[0] ?? [] as $i => $_) {
            $most = 0.0;
            foreach ($sums as $own) {
                $most = max($most, $own[$i]);
            }
            $raised = [exp(-$most)];
            foreach ($sums as $own) {
                $raised[] = exp($own[$i] - $most);
            }
            $all = array_sum($raised);
            foreach ($raised as $class => $e) {
                $out[$class][] = is_nan($all) ? \NAN : $e / $all;
            }
        }

        return $out;
    }

    /** As the choice of columns weighs it. */
    public function candidate(): Candidate
    {
        return new Candidate($this->logLikelihood, (int) array_sum(array_map(\count(...), $this->coefficients)), $this->rowsUsed);
    }

    public function columns(): array
    {
        return $this->coding->columns;
    }

    public function reading(): int
    {
        return array_sum(array_map(static fn (array $own) => \count($own) - 1, $this->coefficients));
    }

    public function size(): string
    {
        $terms = $this->reading();

        return number_format($terms).(1 === $terms ? ' term' : ' terms');
    }

    public function notes(): array
    {
        $notes = [];
        foreach ($this->coding->leftOut as $column => $why) {
            $notes[] = \sprintf('%s is not used: %s.', $column, $why);
        }
        if ([] !== $this->aliased) {
            $notes[] = \sprintf('%s said nothing that the other terms do not already say, and %s left out.', implode(', ', $this->aliased), 1 === \count($this->aliased) ? 'was' : 'were');
        }
        array_push($notes, ...Choice::notes($this->trace, $this->coding->columns));
        if ($this->balanced) {
            $notes[] = 'Rare classes were made to count as much as frequent ones while fitting; chances are brought back to how often they occur. Errors and p-values would not hold and are left out.';
        }
        if (null !== $this->penalty) {
            $notes[] = $this->penalty->sentence(\count(array_filter(array_merge(...$this->coefficients), static fn (Coefficient $c) => 0.0 === $c->estimate)));
        } elseif (!$this->balanced && 0.0 === $this->ridge && null === $this->coefficients[0][0]->error) {
            $notes[] = 'So many terms are fitted by their slopes alone: errors and p-values are not computed.';
        }
        if ($this->ridge > 0.0) {
            $notes[] = 'Some classes are separated completely: a ridge of 1 was added to keep the coefficients finite; errors and p-values do not exist.';
        }
        if ($this->rowsTotal > $this->rowsUsed) {
            $notes[] = \sprintf('%s of %s training rows have a missing value in a column used and taught the model nothing.', number_format($this->rowsTotal - $this->rowsUsed), number_format($this->rowsTotal));
        }

        return $notes;
    }

    /** @return array<string, mixed> named as in the reference */
    public function fitted(): array
    {
        $parameters = array_sum(array_map(\count(...), $this->coefficients));
        $df = $parameters - \count($this->classes) + 1;
        $lr = 2 * ($this->logLikelihood - $this->nullLogLikelihood);
        $coefficients = [];
        foreach ($this->coefficients as $k => $own) {
            foreach ($own as $c) {
                $line = $c->toArray();
                $coefficients[] = ['cls' => $this->classes[$k + 1], 'name' => $c->name, 'estimate' => $c->estimate, 'se' => $c->error, 'z' => $line['z'], 'p' => $line['p'], 'relative_risk_ratio' => $line['odds_ratio']];
            }
        }

        return [
            'rows_total' => $this->rowsTotal,
            'rows_used' => $this->rowsUsed,
            'classes' => $this->classes,
            'reference_class' => $this->classes[0],
            'parameters' => $parameters,
            'coefficients' => $coefficients,
            'log_likelihood' => $this->logLikelihood,
            'null_log_likelihood' => $this->nullLogLikelihood,
            'deviance' => -2 * $this->logLikelihood,
            'aic' => -2 * $this->logLikelihood + 2 * $parameters,
            'mcfadden_r2' => 0.0 !== $this->nullLogLikelihood ? 1 - $this->logLikelihood / $this->nullLogLikelihood : null,
            'penalized' => null === $this->penalty ? null : ['lambda' => $this->penalty->price, 'alpha' => $this->penalty->mix, 'objective' => $this->penalty->objective],
            'lr_chi2' => $lr,
            'lr_df' => $df,
            'lr_p' => $df > 0 ? (new ChiSquare($df))->upper(max(0.0, $lr)) : null,
        ];
    }

    /**
     * Per row the likeliest class and all chances; null where a needed cell is missing.
     *
     * @return list<array{row: int, predicted: ?string, probabilities: array<string, ?float>}>
     */
    public function predictions(Table $new): array
    {
        $out = [];
        $shares = $this->shares($new);
        for ($row = 0; $row < $new->rows; ++$row) {
            $own = [];
            $best = 0;
            foreach ($shares as $class => $list) {
                $own[$this->classes[$class]] = is_nan($list[$row]) ? null : $list[$row];
                $best = $list[$row] > $shares[$best][$row] ? $class : $best;
            }
            $out[] = ['row' => $row + 1, 'predicted' => is_nan($shares[0][$row]) ? null : $this->classes[$best], 'probabilities' => $own];
        }

        return $out;
    }

    public function report(Task $task, Reported $wanted): array
    {
        return $this->fitted() + ([] === $this->trace ? [] : ['selection' => ['final' => $this->columns(), 'trace' => $this->trace]]) + (null === $wanted->new ? [] : ['predictions_new' => $this->predictions($wanted->new)]);
    }

    public function toArray(): array
    {
        return ['learner' => 'multinomial', 'coding' => $this->coding->toArray(), 'classes' => $this->classes, 'coefficients' => array_map(static fn (array $own) => array_map(static fn (Coefficient $c) => [$c->name, $c->estimate, $c->error], $own), $this->coefficients), 'aliased' => $this->aliased, 'ridge' => $this->ridge, 'rows_total' => $this->rowsTotal, 'rows_used' => $this->rowsUsed, 'log_likelihood' => $this->logLikelihood, 'null_log_likelihood' => $this->nullLogLikelihood, 'penalty' => $this->penalty?->toArray(), 'balanced' => $this->balanced, 'trace' => $this->trace];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{coding: array<string, mixed>, classes: list<string>, coefficients: list<list<array{string, float|int, float|int|null}>>, aliased: list<string>, ridge: float|int, rows_total: int, rows_used: int, log_likelihood: float|int, null_log_likelihood: float|int, penalty?: ?array{kind: string, price: float|int, mix: float|int, objective: float|int}, balanced?: bool, trace?: list<array<string, mixed>>} $data */
        return new self(Coding::fromArray($data['coding']), $data['classes'], array_map(static fn (array $own): array => array_map(static fn (array $c): Coefficient => new Coefficient($c[0], (float) $c[1], null === $c[2] ? null : (float) $c[2]), $own), $data['coefficients']), $data['aliased'], (float) $data['ridge'], $data['rows_total'], $data['rows_used'], (float) $data['log_likelihood'], (float) $data['null_log_likelihood'], isset($data['penalty']) ? Penalty::fromArray($data['penalty']) : null, $data['balanced'] ?? false, $data['trace'] ?? []);
    }

    public function coding(): Coding
    {
        return $this->coding;
    }

    public function shownCoefficients(): array
    {
        $shown = [];
        foreach ($this->coefficients as $k => $own) {
            foreach ($own as $c) {
                $shown[] = $c->shown($this->classes[$k + 1]);
            }
        }

        return $shown;
    }

    public function trace(): array
    {
        return $this->trace;
    }

    public function expressions(Frame $frame): array
    {
        $odds = [new Constant(0.0)];
        foreach ($this->coefficients as $own) {
            $byName = array_column(array_map(static fn (Coefficient $c): array => [$c->name, $c->estimate], $own), 1, 0);
            $odds[] = CodingExpression::sum($this->coding, $frame, $byName);
        }

        return Shares::of($odds);
    }
}
