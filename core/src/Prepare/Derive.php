<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Formula\Formula;
use Dokimos\Core\Formula\WrongFormula;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\Table;

/** Makes a column by a formula. RowWise. */
final readonly class Derive implements Step, FittedStep, AsFrame
{
    public function __construct(private string $name, private string $formula)
    {
    }

    public static function described(): Described
    {
        return new Described('formula', 'Column by formula', 'columns', 'Makes a column by a formula of others, such as days_ahead > 9 and missing(boiler_age).', [
            new Setting('name', 'New column', Setting::TEXT),
            new Setting('formula', 'is', Setting::FORMULA),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self(
            $given->required('name', 'Say the name of the new column.'),
            $given->required('formula', 'Write a formula, such as days_ahead * 2.'),
        );
    }

    public static function fromArray(array $data): self
    {
        return self::fromSettings(new Settings($data));
    }

    public function toArray(): array
    {
        return ['step' => 'formula', 'name' => $this->name, 'formula' => $this->formula];
    }

    /** @throws CannotPrepare */
    public function fit(Lesson $lesson): self
    {
        try {
            (new Formula($this->formula, $lesson->table->names()))->apply($lesson->table->take([]));
        } catch (WrongFormula $e) {
            throw new CannotPrepare($e->getMessage(), 0, $e);
        }

        return $this;
    }

    /** @throws CannotPrepare */
    public function apply(Table $table): Table
    {
        $formula = new Formula($this->formula, [...$table->names(), ...$this->asked()]);
        foreach ($formula->columns() as $name) {
            if (!$table->has($name)) {
                return $table;
            }
        }
        try {
            return $table->with($this->name, $formula->apply($table));
        } catch (WrongFormula $e) {
            throw new CannotPrepare($e->getMessage(), 0, $e);
        }
    }

    public function frame(Frame $frame): Frame
    {
        try {
            $formula = new Formula($this->formula, [...array_map(strval(...), array_keys($frame->columns)), ...$this->asked()]);
        } catch (WrongFormula $e) {
            throw new CannotExpress($e->getMessage(), 0, $e);
        }
        foreach ($formula->columns() as $name) {
            if (!$frame->has($name)) {
                return $frame;
            }
        }

        return $frame->with([$this->name => $formula->expression($frame)]);
    }

    /** @return list<string> every word that could be a column */
    private function asked(): array
    {
        preg_match_all('/[a-zA-Z_\x7f-\xff][a-zA-Z0-9_\x7f-\xff]*/', $this->formula, $found);

        return $found[0];
    }

    public function sentence(): string
    {
        return \sprintf('Makes %s: %s.', $this->name, mb_strimwidth($this->formula, 0, 200, '…'));
    }

    public function asks(array $wanted): array
    {
        try {
            $columns = (new Formula($this->formula, $this->asked()))->columns();
        } catch (WrongFormula) {
            $columns = [];
        }

        return Asked::before($wanted, [$this->name => $columns]);
    }
}
