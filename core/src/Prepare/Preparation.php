<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Table;

/** An ordered list of steps. */
final readonly class Preparation
{
    public const SCHEMA = 'dokimos-preparation/1';

    /** @param list<Step> $steps */
    public function __construct(public array $steps)
    {
    }

    /**
     * @param list<array<string, mixed>> $steps as stored; those with "off": true are skipped
     */
    public static function fromArray(array $steps): self
    {
        $made = [];
        foreach ($steps as $step) {
            if (true !== ($step['off'] ?? false)) {
                $made[] = Steps::fromSettings($step);
            }
        }

        return new self($made);
    }

    /**
     * @param list<int>    $training
     * @param ?list<float> $event    per row of the table, for steps that learn from the target
     *
     * @throws CannotPrepare Step …: …
     */
    public function fit(Table $table, array $training, ?array $event = null): FittedPreparation
    {
        $learning = new Learning($table, $training, $event);
        foreach ($this->steps as $i => $step) {
            try {
                $learning = $learning->after($step);
            } catch (CannotPrepare $e) {
                throw new CannotPrepare(\sprintf('Step %d: %s', $i + 1, $e->getMessage()), 0, $e);
            }
        }

        return new FittedPreparation($learning->steps, $learning->tolls, $learning->learned, $learning->rows());
    }

    /** @return list<array<string, mixed>> */
    public function toArray(): array
    {
        return array_map(static fn (Step $s) => $s->toArray(), $this->steps);
    }
}
