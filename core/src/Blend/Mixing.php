<?php

declare(strict_types=1);

namespace Dokimos\Core\Blend;

use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learners\Learners;
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
