<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

/**
 * What acting on a record costs and what a prevented event is worth: chance · r · (kept · value − cost on success) − cost − (1 − chance) ·
 * cost in vain. The one place that knows it. Definition: docs/methods/action-list.md (decision 55).
 */
final readonly class Economics
{
    /**
     * @param float $cost          of an action
     * @param float $works         how often an action prevents the event, 0 to 1
     * @param float $kept          share of the value that stays when it works, 0 to 1
     * @param float $costOnSuccess more that is paid when it works
     * @param float $costInVain    what goes wrong when there would have been no event
     */
    public function __construct(
        public float $cost,
        public float $works,
        public float $kept = 1.0,
        public float $costOnSuccess = 0.0,
        public float $costInVain = 0.0,
    ) {
    }

    /** What an event that is prevented brings. */
    public function prevented(float $value): float
    {
        return $this->kept * $value - $this->costOnSuccess;
    }

    public function expected(float $chance, float $value): float
    {
        return $chance * $this->works * $this->prevented($value) - $this->cost - (1.0 - $chance) * $this->costInVain;
    }

    /**
     * The same for many records at once: a call for each would take as long again.
     *
     * @param list<float> $chances
     * @param list<float> $values
     *
     * @return list<float>
     */
    public function returns(array $chances, array $values): array
    {
        $byValue = $this->works * $this->kept;
        $alone = $this->costInVain - $this->works * $this->costOnSuccess;
        $always = $this->cost + $this->costInVain;
        $out = [];
        foreach ($chances as $row => $p) {
            $out[] = $p * ($byValue * $values[$row] + $alone) - $always;
        }

        return $out;
    }

    /** Of what one record returns, its outcome unknown. */
    public function variance(float $chance, float $value): float
    {
        $q = $chance * $this->works;
        $brought = $this->prevented($value);
        $mean = $q * $brought - (1.0 - $chance) * $this->costInVain;

        return max(0.0, $q * $brought ** 2 + (1.0 - $chance) * $this->costInVain ** 2 - $mean ** 2);
    }

    /** The chance from which on an action is expected to pay; null where none does; above 1 it is not worthwhile either. */
    public function breakEven(float $value): ?float
    {
        $brought = $this->works * $this->prevented($value);

        return $brought > 0.0 ? ($this->cost + $this->costInVain) / ($brought + $this->costInVain) : null;
    }

    /** The same with another share of actions that work. */
    public function working(float $works): self
    {
        return new self($this->cost, $works, $this->kept, $this->costOnSuccess, $this->costInVain);
    }

    /** The same with another cost of an action. */
    public function costing(float $cost): self
    {
        return new self($cost, $this->works, $this->kept, $this->costOnSuccess, $this->costInVain);
    }
}
