<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;

/** Columns read as another kind. RowWise. */
final readonly class FittedKind implements FittedStep
{
    /**
     * @param list<string> $columns
     * @param int          $lost    cells that did not fit, in the table it was fitted on
     */
    public function __construct(private array $columns, private Kind $to, private int $lost)
    {
    }

    public function apply(Table $table): Table
    {
        foreach ($this->columns as $name) {
            if ($table->has($name)) {
                $table = $table->with($name, ChangeKind::read($table->column($name), $this->to));
            }
        }

        return $table;
    }

    public function sentence(): string
    {
        return \sprintf('Reads %s as %s%s.', Words::listed($this->columns), $this->to->value, 0 === $this->lost ? '; every cell fits' : \sprintf('; %s do not fit and become missing', Words::count($this->lost, 'cell')));
    }

    public function asks(array $wanted): array
    {
        return $wanted;
    }

    public function toArray(): array
    {
        return ['step' => 'change_kind', 'columns' => $this->columns, 'kind' => $this->to->value, 'lost' => $this->lost];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{columns: list<string>, kind: string, lost: int} $data */
        return new self($data['columns'], Kind::from($data['kind']), $data['lost']);
    }
}
