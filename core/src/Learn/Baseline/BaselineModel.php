<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Baseline;

use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Table\Table;

/** The same answer for every record. */
final readonly class BaselineModel implements TellsClasses, AsExpression
{
    /**
     * @param list<float>   $values  the share of each class, or the mean alone
     * @param ?list<string> $classes null for a number
     */
    public function __construct(public array $values, private ?array $classes = ['no', 'yes'])
    {
    }

    public function classes(): array
    {
        return $this->classes ?? [];
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        return $this->same($this->values[\count($this->values) - 1], $table, $rows);
    }

    public function shares(Table $table, ?array $rows = null): array
    {
        return array_map(fn (float $share): array => $this->same($share, $table, $rows), $this->values);
    }

    /**
     * @param ?list<int> $rows
     *
     * @return list<float>
     */
    private function same(float $value, Table $table, ?array $rows): array
    {
        $count = null === $rows ? $table->rows : \count($rows);

        return $count > 0 ? array_fill(0, $count, $value) : [];
    }

    public function columns(): array
    {
        return [];
    }

    public function size(): string
    {
        return '';
    }

    public function notes(): array
    {
        return [];
    }

    public function toArray(): array
    {
        return ['learner' => 'baseline', 'values' => $this->values, 'classes' => $this->classes];
    }

    /** @param array<string, mixed> $data models of two classes used to be stored with the chance alone */
    public static function fromArray(array $data): self
    {
        /** @var array{chance?: float, values?: list<float|int>, classes?: ?list<string>} $data */
        return isset($data['chance']) ? new self([1.0 - (float) $data['chance'], (float) $data['chance']]) : new self(array_map(floatval(...), $data['values'] ?? []), $data['classes'] ?? null);
    }

    public function expressions(Frame $frame): array
    {
        $all = array_map(static fn (float $v): Constant => new Constant($v), $this->values);

        return \count($all) > 2 ? $all : [$all[\count($all) - 1]];
    }
}
