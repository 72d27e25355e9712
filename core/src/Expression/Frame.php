<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

use Dokimos\Core\Table\Kind;

/** The columns of a record on their way through the steps of a preparation, each worked out from those before it. */
final readonly class Frame
{
    /**
     * @param array<array-key, Named>         $columns by the name that steps and models know
     * @param array<array-key, Kind>          $kinds   of these
     * @param list<array<string, Expression>> $layers  each from the record and from layers before it, under names of its own
     * @param list<Expression>                $out     conditions under which a record is taken out
     */
    public function __construct(public array $columns, public array $kinds, public array $layers = [], public array $out = [])
    {
    }

    /** @param array<array-key, Kind> $inputs */
    public static function ofRecord(array $inputs): self
    {
        $columns = [];
        foreach ($inputs as $name => $kind) {
            $columns[$name] = new Named((string) $name, self::isText($kind));
        }

        return new self($columns, $inputs);
    }

    public static function isText(Kind $kind): bool
    {
        return Kind::Number !== $kind && Kind::Date !== $kind;
    }

    public function has(string $name): bool
    {
        return isset($this->columns[$name]);
    }

    /** @throws CannotExpress when there is no such column */
    public function column(string $name): Named
    {
        return $this->columns[$name] ?? throw new CannotExpress(\sprintf('There is no column %s when the model asks for it.', $name));
    }

    public function kind(string $name): ?Kind
    {
        return $this->kinds[$name] ?? null;
    }

    /** @param array<array-key, array{Kind, Expression}> $made by column */
    public function with(array $made): self
    {
        if ([] === $made) {
            return $this;
        }
        [$columns, $kinds, $layer] = [$this->columns, $this->kinds, []];
        foreach ($made as $name => [$kind, $expression]) {
            $own = \sprintf('s%d_%d', \count($this->layers) + 1, \count($layer) + 1);
            $layer[$own] = $expression;
            $columns[$name] = new Named($own, self::isText($kind));
            $kinds[$name] = $kind;
        }

        return new self($columns, $kinds, [...$this->layers, $layer], $this->out);
    }

    /** @param list<string> $names */
    public function without(array $names): self
    {
        return new self(
            array_diff_key($this->columns, array_flip($names)),
            array_diff_key($this->kinds, array_flip($names)),
            $this->layers,
            $this->out,
        );
    }

    public function renamed(string $from, string $to): self
    {
        if (!$this->has($from)) {
            return $this;
        }
        [$columns, $kinds] = [$this->columns, $this->kinds];
        $columns[$to] = $columns[$from];
        $kinds[$to] = $kinds[$from];
        unset($columns[$from], $kinds[$from]);

        return new self($columns, $kinds, $this->layers, $this->out);
    }

    public function takingOut(Expression $where): self
    {
        return new self($this->columns, $this->kinds, $this->layers, [...$this->out, $where]);
    }
}
