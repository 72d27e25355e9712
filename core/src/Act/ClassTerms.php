<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

/**
 * Of several classes: each action has an amount for each class, positive = gain; a record gets the action that is expected to bring most.
 */
final readonly class ClassTerms implements Terms
{
    /** @var list<int> the action of each record, −1 = none can be told */
    public array $actions;
    /** @var list<float> */
    private array $returns;

    /**
     * @param list<list<float>> $shares  chances of all classes for each record; none where it is not scored
     * @param list<list<float>> $amounts for each action one per class
     * @param list<float>       $nothing amounts of doing nothing, one per class
     */
    public function __construct(public array $shares, public array $amounts, public array $nothing)
    {
        foreach ($amounts as $own) {
            if (\count($own) !== \count($nothing)) {
                throw new WrongEdges('An action has an amount for each class.');
            }
        }
        $actions = $returns = [];
        foreach ($shares as $own) {
            $best = -1;
            $return = \NAN;
            foreach ([] === $own ? [] : $this->gains() as $action => $gain) {
                $expected = 0.0;
                foreach ($own as $k => $share) {
                    $expected += $share * $gain[$k];
                }
                if (-1 === $best || $expected > $return) {
                    [$best, $return] = [$action, $expected];
                }
            }
            $actions[] = $best;
            $returns[] = $return;
        }
        $this->actions = $actions;
        $this->returns = $returns;
    }

    /** @return list<list<float>> what each action brings above doing nothing, by class */
    private function gains(): array
    {
        return array_map(
            fn (array $own): array => array_map(static fn (float $a, float $b): float => $a - $b, $own, $this->nothing),
            $this->amounts,
        );
    }

    public function returns(): array
    {
        return $this->returns;
    }

    public function figures(array $rows): SetFigures
    {
        $gains = $this->gains();
        $gross = $variance = 0.0;
        foreach ($rows as $row) {
            $square = 0.0;
            foreach ($this->shares[$row] as $k => $share) {
                $square += $share * $gains[$this->actions[$row]][$k] ** 2;
            }
            $gross += $this->returns[$row];
            $variance += max(0.0, $square - $this->returns[$row] ** 2);
        }

        return SetFigures::of(\count($rows), 0.0, $gross, 0.0, $variance, 0.0, 0.0);
    }
}
