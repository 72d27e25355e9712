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
                $made[] = self::step($step);
            }
        }

        return new self($made);
    }

    /** @param array<string, mixed> $data */
    public static function step(array $data): Step
    {
        $columns = [];
        foreach (\is_array($data['columns'] ?? null) ? $data['columns'] : [] as $name) {
            if (!\is_string($name)) {
                throw new CannotPrepare('Columns are given by their names.');
            }
            $columns[] = $name;
        }

        return match ($data['step'] ?? null) {
            'set_aside' => new SetAside($columns),
            'fill_missing' => new FillMissing($columns, \is_string($data['method'] ?? null) ? $data['method'] : FillMissing::MEDIAN, true === ($data['mark'] ?? false)),
            default => throw new CannotPrepare(\sprintf('There is no step called "%s".', \is_string($data['step'] ?? null) ? $data['step'] : '')),
        };
    }

    /** @param list<int> $training */
    public function fit(Table $table, array $training): FittedPreparation
    {
        $fitted = $tolls = [];
        foreach ($this->steps as $i => $step) {
            try {
                $one = $step->fit($table, $training);
                $after = $one->apply($table);
            } catch (CannotPrepare $e) {
                throw new CannotPrepare(\sprintf('Step %d: %s', $i + 1, $e->getMessage()), 0, $e);
            }
            $tolls[] = Toll::between($table, $after);
            $fitted[] = $one;
            $table = $after;
        }

        return new FittedPreparation($fitted, $tolls);
    }

    /** @return list<array<string, mixed>> */
    public function toArray(): array
    {
        return array_map(static fn (Step $s) => $s->toArray(), $this->steps);
    }
}
