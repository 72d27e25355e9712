<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

/** An event that an action may prevent: each record has a chance of it and a value that it costs. */
final readonly class EventTerms implements Terms
{
    /**
     * @param list<float> $chances NAN = not scored
     * @param list<float> $values  what the event costs; NAN = not known
     */
    public function __construct(public array $chances, public array $values, public Economics $economics)
    {
    }

    public function returns(): array
    {
        return $this->economics->returns($this->chances, $this->values);
    }

    public function figures(array $rows): SetFigures
    {
        $events = $prevented = $gross = $calm = $variance = 0.0;
        $economics = $this->economics;
        [$works, $kept, $success, $vain] = [$economics->works, $economics->kept, $economics->costOnSuccess, $economics->costInVain];
        foreach ($rows as $row) {
            $p = $this->chances[$row];
            // Economics::variance(), written out: this loop goes over millions.
            $brought = $kept * $this->values[$row] - $success;
            $q = $p * $works;
            $mean = $q * $brought - (1.0 - $p) * $vain;
            $events += $p;
            $prevented += $q;
            $gross += $q * $brought;
            $calm += 1.0 - $p;
            $variance += max(0.0, $q * $brought * $brought + (1.0 - $p) * $vain * $vain - $mean * $mean);
        }
        $actions = \count($rows);

        return SetFigures::of(
            $actions,
            $actions * $economics->cost,
            $gross,
            $calm * $economics->costInVain,
            $variance,
            $events,
            $prevented,
        );
    }

    /** The same under other assumptions. */
    public function under(Economics $economics): self
    {
        return new self($this->chances, $this->values, $economics);
    }
}
