<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Table\Table;

/** Columns left out of everything that follows, whichever step found them. RowWise. */
final readonly class Aside implements FittedStep, AsFrame
{
    /** @param list<string> $columns */
    public function __construct(private string $step, public array $columns, private string $sentence)
    {
    }

    public function apply(Table $table): Table
    {
        return $table->without($this->columns);
    }

    public function sentence(): string
    {
        return $this->sentence;
    }

    public function asks(array $wanted): array
    {
        return $wanted;
    }

    public function toArray(): array
    {
        return ['step' => $this->step, 'columns' => $this->columns, 'sentence' => $this->sentence];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{step: string, columns: list<string>, sentence: string} $data */
        return new self($data['step'], $data['columns'], $data['sentence']);
    }

    public function frame(Frame $frame): Frame
    {
        return $frame->without($this->columns);
    }
}
