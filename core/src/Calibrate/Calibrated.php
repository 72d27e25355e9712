<?php

declare(strict_types=1);

namespace Dokimos\Core\Calibrate;

use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Task\Answers;

/** Answers made to come true: chances of an event, or of several classes (each by itself, then shared out to 1), and numbers. */
final readonly class Calibrated
{
    /** @param list<Calibrator> $each of the event; of several classes one each */
    private function __construct(public string $way, public array $each)
    {
    }

    /**
     * @param string       $way     one of Way, but neither "as they come" nor "whichever does better"
     * @param list<float>  $outcome the place of each row's class; 1 is the event of two
     * @param Answers      $answers of the same rows, none of which was learned from; rows without an answer are left out
     * @param ?list<float> $weights
     *
     * @throws CannotCalibrate when there is nothing to hold chances against
     */
    public static function fit(string $way, array $outcome, Answers $answers, ?array $weights = null): self
    {
        $rows = array_values(array_filter(
            array_keys($outcome),
            static fn (int $i): bool => $answers->isKnown($i) && ($weights[$i] ?? 1.0) > 0.0,
        ));
        $own = null === $weights ? null : array_map(static fn (int $i): float => $weights[$i], $rows);
        $each = [];
        for ($k = 0; $k < $answers->width; ++$k) {
            $class = 1 === $answers->width ? 1 : $k;
            $event = array_map(static fn (int $i): float => (int) $outcome[$i] === $class ? 1.0 : 0.0, $rows);
            $chance = array_map(static fn (int $i): float => $answers->ofClass($i, $class), $rows);
            $each[] = Way::SIGMOID === $way ? Sigmoid::fit($event, $chance, $own) : Isotonic::fit($event, $chance, $own)->softened();
        }

        return new self($way, $each);
    }

    /**
     * Numbers moved by what they were off.
     *
     * @param list<float> $came    NAN = not known
     * @param Answers     $answers of the same rows
     *
     * @throws CannotCalibrate when there is nothing to hold answers against
     */
    public static function shifted(array $came, Answers $answers): self
    {
        $rows = array_values(array_filter(array_keys($came), static fn (int $i): bool => is_finite($came[$i]) && $answers->isKnown($i)));

        return new self(Shift::NAME, [Shift::fit(
            array_map(static fn (int $i): float => $came[$i], $rows),
            array_map($answers->first(...), $rows),
        )]);
    }

    /**
     * The same, written out.
     *
     * @param non-empty-list<Expression> $chances
     *
     * @return non-empty-list<Expression>
     */
    public function expressions(array $chances): array
    {
        $own = array_map(static fn (Calibrator $c, Expression $p): Expression => $c->expression($p), $this->each, $chances);
        if (1 === \count($own)) {
            return $own;
        }
        $all = Operation::sum($own);
        $some = Operation::of(Operator::Below, new Constant(0.0), $all);
        $even = new When(new IsMissing($all), new Constant(null), new Constant(1 / max(1, \count($own))));
        $out = array_map(static fn (Expression $p): When => new When($some, Operation::of(Operator::Over, $p, $all), $even), $own);

        return [] === $out ? throw new \LogicException('There are no chances.') : $out;
    }

    public function of(Answers $answers): Answers
    {
        $values = [];
        for ($row = 0; $row < $answers->rows(); ++$row) {
            $own = [];
            foreach ($this->each as $k => $calibrator) {
                $own[] = $calibrator->of($answers->of($row)[$k] ?? \NAN);
            }
            // Of several classes, what each is given by itself need not add up to 1.
            $all = 1 === $answers->width ? 1.0 : array_sum($own);
            foreach ($own as $chance) {
                $values[] = $all > 0.0 || is_nan($all) ? $chance / $all : 1 / $answers->width;
            }
        }

        return new Answers($values, $answers->width);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['way' => $this->way, 'each' => array_map(static fn (Calibrator $c): array => $c->toArray(), $this->each)];
    }

    /**
     * @param array<string, mixed> $kept
     *
     * @throws CannotCalibrate when nothing is kept
     */
    public static function read(array $kept): self
    {
        /** @var list<array<string, mixed>> $each */
        $each = \is_array($kept['each'] ?? null) ? $kept['each'] : [];
        $read = array_map(
            static fn (array $c): Calibrator => match ($c['way'] ?? '') {
                Sigmoid::NAME => Sigmoid::read($c),
                Shift::NAME => Shift::read($c),
                default => Isotonic::read($c),
            },
            $each,
        );

        return [] === $read ? throw new CannotCalibrate('No calibration is kept.') : new self(
            \is_string($kept['way'] ?? null) ? $kept['way'] : '',
            $read,
        );
    }
}
