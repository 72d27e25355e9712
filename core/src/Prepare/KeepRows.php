<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Select\Conditions;
use Dokimos\Core\Select\UnclearCondition;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;

/** Keeps, or takes out, the rows for which conditions hold. RowWise. */
final readonly class KeepRows implements Step, TakesOut, AsFrame
{
    /** @throws CannotPrepare Say at least one condition. */
    public function __construct(private Conditions $conditions, private bool $remove)
    {
        if ([] === $conditions->conditions) {
            throw new CannotPrepare('Say at least one condition.');
        }
    }

    public static function described(): Described
    {
        return new Described('keep_rows', 'Keep rows by condition', 'rows', 'Keeps, or takes out, rows for which conditions hold.', [
            new Setting('mode', 'Rows where it holds are', Setting::CHOICE, choices: ['kept', 'taken out'], default: 'kept'),
            new Setting('where', 'Conditions', Setting::CONDITIONS),
            new Setting('any', 'one of them is enough', Setting::YES, default: false),
        ]);
    }

    /** @throws CannotPrepare */
    public static function fromSettings(Settings $given): self
    {
        try {
            return new self(
                Conditions::fromArray($given->items('where'), $given->yes('any')),
                'taken out' === $given->choice('mode', ['kept', 'taken out']),
            );
        } catch (UnclearCondition $e) {
            throw new CannotPrepare($e->getMessage(), 0, $e);
        }
    }

    public static function fromArray(array $data): self
    {
        return self::fromSettings(new Settings($data));
    }

    public function toArray(): array
    {
        return [
            'step' => 'keep_rows',
            'mode' => $this->remove ? 'taken out' : 'kept',
            'where' => array_map(static fn ($c) => [$c->column, $c->relation->value, ...$c->values], $this->conditions->conditions),
            'any' => $this->conditions->any,
        ];
    }

    /** @throws CannotPrepare */
    public function fit(Lesson $lesson): self
    {
        foreach ($this->conditions->columns() as $name) {
            if (!$lesson->table->has($name)) {
                throw Chosen::absent($name);
            }
        }
        try {
            foreach ($this->conditions->conditions as $condition) {
                $condition->holds($lesson->table->column($condition->column));
            }
        } catch (UnclearCondition $e) {
            throw new CannotPrepare($e->getMessage(), 0, $e);
        }

        return $this;
    }

    public function apply(Table $table): Table
    {
        return $table;
    }

    public function out(Table $table): array
    {
        // A few new records need not hold every value that a condition names.
        $held = array_fill_keys($this->conditions->rows($table->column(...), $table->rows, false)[0], true);
        $why = ($this->remove ? '' : 'not ').$this->conditions->sentence();
        $out = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            if (isset($held[$row]) === $this->remove) {
                $out[$row] = $why;
            }
        }

        return $out;
    }

    public function frame(Frame $frame): Frame
    {
        $all = [];
        foreach ($this->conditions->conditions as $condition) {
            $all[] = $condition->expression($frame->column($condition->column), $frame->kind($condition->column) ?? Kind::Text);
        }
        $operator = $this->conditions->any ? Operator::Or : Operator::And;
        $holds = 1 === \count($all) ? $all[0] : Operation::of($operator, ...$all);
        if ($this->remove) {
            return $frame->takingOut($holds);
        }
        // What is not known does not hold; there is no "not" that would turn that round.
        $held = new When($holds, new Constant(1.0), new Constant(0.0));

        return $frame->takingOut(Operation::of(Operator::Below, $held, new Constant(0.5)));
    }

    public function sentence(): string
    {
        return \sprintf('%s rows where %s.', $this->remove ? 'Takes out' : 'Keeps', $this->conditions->sentence());
    }

    public function asks(array $wanted): array
    {
        return Asked::before($wanted, [], $this->conditions->columns());
    }
}
