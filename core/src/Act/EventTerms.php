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
        $returns = [];
        foreach ($this->chances as $row => $p) {
            $returns[] = $this->economics->expected($p, $this->values[$row]);
        }

        return $returns;
    }

    public function figures(array $rows): SetFigures
    {
        $events = $prevented = $gross = $calm = $variance = 0.0;
        $economics = $this->economics;
        foreach ($rows as $row) {
            [$p, $v] = [$this->chances[$row], $this->values[$row]];
            $events += $p;
            $prevented += $p * $economics->works;
            $gross += $p * $economics->works * $economics->prevented($v);
            $calm += 1.0 - $p;
            $variance += $economics->variance($p, $v);
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
