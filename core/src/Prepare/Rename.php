<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\Table;

/** Gives a column another name, at the same place. RowWise. */
final readonly class Rename implements Step, FittedStep, AsFrame
{
    public function __construct(private string $column, private string $to)
    {
    }

    public static function described(): Described
    {
        return new Described('rename', 'Rename a column', 'columns', 'Gives a column another name.', [
            new Setting('column', 'Column', Setting::COLUMN),
            new Setting('to', 'New name', Setting::TEXT),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->required('column', 'Choose the column to rename.'), $given->required('to', 'Say the new name.'));
    }

    public static function fromArray(array $data): self
    {
        return self::fromSettings(new Settings($data));
    }

    public function toArray(): array
    {
        return ['step' => 'rename', 'column' => $this->column, 'to' => $this->to];
    }

    /** @throws CannotPrepare There is a column … already. */
    public function fit(Lesson $lesson): self
    {
        if (!$lesson->table->has($this->column)) {
            throw Chosen::absent($this->column);
        }
        if ($this->to !== $this->column && $lesson->table->has($this->to)) {
            throw new CannotPrepare(\sprintf('There is a column %s already.', $this->to));
        }

        return $this;
    }

    public function apply(Table $table): Table
    {
        $columns = [];
        foreach ($table->columns() as $name => $column) {
            $columns[(string) $name === $this->column ? $this->to : $name] = $column;
        }

        return Table::of($columns, $table->rows);
    }

    public function sentence(): string
    {
        return \sprintf('Calls %s %s.', $this->column, $this->to);
    }

    public function asks(array $wanted): array
    {
        return Asked::before($wanted, [$this->to => [$this->column]]);
    }

    public function frame(Frame $frame): Frame
    {
        return $frame->renamed($this->column, $this->to);
    }
}
