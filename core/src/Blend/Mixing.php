<?php

declare(strict_types=1);

namespace Dokimos\Core\Blend;

use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Named;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;

/** How several answers become one. Definition: docs/methods/blend.md. */
final readonly class Mixing
{
    public const MEAN = 'mean';
    public const WEIGHTS = 'weights';
    public const ODDS = 'regression on log-odds';
    public const WAYS = [self::MEAN, self::WEIGHTS, self::ODDS];

    private const LEAST = 1e-6;

    /**
     * @param list<float> $weights of each answer; of a regression its coefficients
     * @param ?Model      $over    a regression on log-odds
     */
    private function __construct(public string $how, public array $weights, private ?Model $over)
    {
    }

    /**
     * @param list<Answers> $answers of each trial, for the same rows
     * @param list<int>     $rows    to learn from
     * @param list<float>   $outcome per row
     * @param ?list<float>  $weights per row
     * @param ?list<string> $classes
     *
     * @throws CannotFit where there is nothing to weigh by
     */
    public static function fit(string $how, array $answers, array $rows, array $outcome, ?array $weights, ?array $classes): self
    {
        $n = \count($answers);
        if (self::MEAN === $how) {
            return new self($how, array_fill(0, $n, 1.0 / max(1, $n)), null);
        }
        $known = array_values(array_filter($rows, static fn (int $row): bool => is_finite($outcome[$row])
            && [] === array_filter($answers, static fn (Answers $a): bool => !$a->isKnown($row))));
        if (\count($known) < 2) {
            throw new CannotFit('There are too few rows that every trial answers to weigh them by.');
        }
        $y = array_map(static fn (int $row): float => $outcome[$row], $known);
        $w = null === $weights ? null : array_map(static fn (int $row): float => $weights[$row], $known);
        if (self::ODDS === $how) {
            if (null === $classes || 2 !== \count($classes)) {
                throw new CannotFit('A regression on log-odds blends chances of an event; choose weights instead.');
            }
            $table = self::odds(array_map(static fn (Answers $a): Answers => $a->take($known), $answers));
            $model = (new LogisticRegression(['penalty' => 'ridge']))->fit(new Task($table, $table->names(), $y, array_keys($known), $w));
            $coefficients = [];
            foreach ($table->names() as $name) {
                $coefficients[$name] = 0.0;
            }
            foreach ($model->shownCoefficients() as $c) {
                if (isset($coefficients[$c->name])) {
                    $coefficients[$c->name] = $c->estimate;
                }
            }

            return new self($how, array_values($coefficients), $model);
        }
        $values = [];
        foreach ($answers as $a) {
            $own = [];
            foreach ($known as $i => $row) {
                $own[] = match (true) {
                    null === $classes => $a->first($row),
                    $a->width > 1 => $a->ofClass($row, (int) $y[$i]),
                    default => $y[$i] > 0.5 ? $a->first($row) : 1.0 - $a->first($row),
                };
            }
            $values[] = $own;
        }
        $found = null === $classes ? BlendWeights::ofNumbers($values, $y, $w) : BlendWeights::ofChances($values, $w);

        return new self($how, $found->weights, null);
    }

    /**
     * Where one has no answer the others answer with their weights raised.
     *
     * @param list<Answers> $answers for the same rows
     */
    public function of(array $answers): Answers
    {
        $rows = ($answers[0] ?? new Answers([]))->rows();
        $width = ($answers[0] ?? new Answers([]))->width;
        $over = null === $this->over ? null : $this->over->predict(self::odds($answers));
        $out = [];
        for ($row = 0; $row < $rows; ++$row) {
            $known = array_keys(array_filter($answers, static fn (Answers $a): bool => $a->isKnown($row)));
            if (null !== $over && \count($known) === \count($answers)) {
                $out[] = $over[$row];
                continue;
            }
            $all = array_sum(array_map(fn (int $k): float => max(0.0, $this->weights[$k]), $known));
            $sums = array_fill(0, $width, [] === $known ? \NAN : 0.0);
            foreach ($known as $k) {
                $share = $all > 0.0 ? max(0.0, $this->weights[$k]) / $all : 1.0 / \count($known);
                foreach ($answers[$k]->of($row) as $c => $v) {
                    $sums[$c] += $share * $v;
                }
            }
            array_push($out, ...$sums);
        }

        return new Answers($out, $width);
    }

    /**
     * The same written out.
     *
     * @param non-empty-list<non-empty-list<Named>> $answers of each trial
     *
     * @return array{list<array<string, Expression>>, non-empty-list<Expression>} layers to work out first, and the answers from them
     *
     * @throws CannotExpress
     */
    public function expressions(array $answers): array
    {
        $zero = new Constant(0.0);
        $silent = array_map(static fn (array $own): IsMissing => new IsMissing($own[0]), $answers);
        $weight = fn (int $k): Constant => new Constant(max(0.0, $this->weights[$k]));
        $all = self::sum($silent, $weight);
        $many = self::sum($silent, static fn (int $k): Constant => new Constant(1.0));
        $out = [];
        foreach (array_keys($answers[0]) as $c) {
            $weighed = self::sum($silent, static fn (int $k): Operation => Operation::of(Operator::Times, $weight($k), $answers[$k][$c]));
            $plain = self::sum($silent, static fn (int $k): Named => $answers[$k][$c]);
            $out[] = new When(
                Operation::of(Operator::Below, $zero, $all),
                Operation::of(Operator::Over, $weighed, new When(Operation::of(Operator::Below, $zero, $all), $all, new Constant(1.0))),
                new When(
                    Operation::of(Operator::Below, $zero, $many),
                    Operation::of(Operator::Over, $plain, new When(Operation::of(Operator::Below, $zero, $many), $many, new Constant(1.0))),
                    new Constant(null),
                ),
            );
        }
        if (null === $this->over) {
            return [[], $out];
        }
        if (!$this->over instanceof AsExpression) {
            throw new CannotExpress('The regression that blends is not written out.');
        }
        $made = [];
        foreach ($answers as $k => [$p]) {
            $held = Operation::of(
                Operator::Most,
                Operation::of(Operator::Least, $p, new Constant(1.0 - self::LEAST)),
                new Constant(self::LEAST),
            );
            $made['m'.$k] = [Kind::Number, Operation::of(
                Operator::Log,
                Operation::of(Operator::Over, $held, Operation::of(Operator::Less, new Constant(1.0), $held)),
            )];
        }
        $frame = (new Frame([], []))->with($made);
        $any = 1 === \count($silent) ? $silent[0] : new Operation(Operator::Or, $silent);

        return [$frame->layers, [new When($any, $out[0], $this->over->expressions($frame)[0])]];
    }

    /**
     * Of those that answer.
     *
     * @param list<IsMissing>           $silent
     * @param \Closure(int): Expression $of
     */
    private static function sum(array $silent, \Closure $of): Expression
    {
        $terms = [];
        foreach ($silent as $k => $is) {
            $terms[] = new When($is, new Constant(0.0), $of($k));
        }

        return Operation::sum($terms);
    }

    /** @param list<Answers> $answers of an event */
    private static function odds(array $answers): Table
    {
        $columns = [];
        foreach ($answers as $k => $a) {
            $own = [];
            for ($row = 0, $n = $a->rows(); $row < $n; ++$row) {
                $p = max(self::LEAST, min(1.0 - self::LEAST, $a->first($row)));
                $own[] = $a->isKnown($row) ? log($p / (1.0 - $p)) : \NAN;
            }
            $columns['m'.$k] = new NumberColumn($own);
        }

        return Table::of($columns, ($answers[0] ?? new Answers([]))->rows());
    }

    /**
     * Answers for rows that did not choose how they are weighed: each part by the weights of the other parts.
     *
     * @param list<Answers>   $answers
     * @param list<list<int>> $parts   rows
     * @param list<float>     $outcome
     * @param ?list<float>    $weights
     * @param ?list<string>   $classes
     */
    public static function across(string $how, array $answers, array $parts, array $outcome, ?array $weights, ?array $classes): Answers
    {
        $width = ($answers[0] ?? new Answers([]))->width;
        $out = array_fill(0, \count($outcome) * $width, \NAN);
        $all = array_merge(...$parts);
        foreach ($parts as $own) {
            $in = array_fill_keys($own, true);
            $others = array_values(array_filter($all, static fn (int $row): bool => !isset($in[$row])));
            // With a single part there is no other to learn from.
            $mixing = self::fit([] === $others ? self::MEAN : $how, $answers, $others, $outcome, $weights, $classes);
            $said = $mixing->of(array_map(static fn (Answers $a): Answers => $a->take($own), $answers));
            foreach ($own as $i => $row) {
                foreach ($said->of($i) as $c => $v) {
                    $out[$row * $width + $c] = $v;
                }
            }
        }

        return new Answers(array_values($out), $width);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['how' => $this->how, 'weights' => $this->weights, 'over' => $this->over?->toArray()];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{how: string, weights: list<float|int>, over: ?array<string, mixed>} $data */
        return new self(
            $data['how'],
            array_map(floatval(...), $data['weights']),
            null === $data['over'] ? null : Learners::read($data['over']),
        );
    }
}
