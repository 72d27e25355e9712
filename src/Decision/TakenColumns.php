<?php

declare(strict_types=1);

namespace App\Decision;

use App\Http\Problem;
use App\Table\TableColumn;
use Dokimos\Core\Act\ListCells;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Task\Task;

/** The columns of a list as it is written: chosen, named and ordered by the analyst. */
final readonly class TakenColumns
{
    /** What a list has of its own, by the kind it is written as. */
    public const OWN = [
        '=place' => Kind::Number,
        '=record' => Kind::Number,
        '=action' => Kind::Category,
        '=assigned' => Kind::Category,
        '=tier' => Kind::Category,
        '=chance' => Kind::Number,
        '=value' => Kind::Number,
        '=return' => Kind::Number,
        '=because' => Kind::Text,
        '=status' => Kind::Category,
    ];

    /**
     * @param list<string> $of
     * @param list<string> $names
     * @param list<Kind>   $kinds
     * @param string       $status draft, or approved
     */
    private function __construct(public array $of, public array $names, public array $kinds, private string $status)
    {
    }

    /**
     * @param list<TakenColumn> $chosen none = the usual ones
     *
     * @throws Problem where a column is not there, or a name is taken twice
     */
    public static function of(Decision $decision, array $chosen, string $status): self
    {
        $table = $decision->scoring()->table();
        if ([] === $chosen) {
            $key = Lists::key($table);
            $usual = [
                null === $key ? '=record' : $key->name(),
                ...(Task::MORE === $decision->scoring()->task() ? ['=action'] : ['=chance', '=value']),
                '=return',
                '=tier',
                '=assigned',
                '=because',
                '=status',
            ];
            $chosen = array_map(static fn (string $of): TakenColumn => new TakenColumn($of), $usual);
        }
        $kinds = $names = [];
        foreach ($chosen as $one) {
            $column = $table->column($one->of);
            $kinds[] = self::OWN[$one->of] ?? $column?->kind() ?? throw Problem::invalid(
                \sprintf('There is no column "%s" to write.', $one->of),
                'columns',
            );
            $names[] = '' === trim($one->as) ? ltrim($one->of, '=') : trim($one->as);
        }
        $twice = array_diff_assoc($names, array_unique($names));
        if ([] !== $twice) {
            throw Problem::invalid(\sprintf('Two columns are named "%s". Name one of them otherwise.', array_values($twice)[0]), 'columns');
        }

        return new self(array_map(static fn (TakenColumn $c): string => $c->of, $chosen), $names, $kinds, $status);
    }

    /** @return list<string> columns of the scored table that are read, in its order */
    public function carried(Decision $decision): array
    {
        return array_values(array_filter(
            array_map(static fn (TableColumn $c): string => $c->name(), $decision->scoring()->table()->columns()),
            fn (string $name): bool => \in_array($name, $this->of, true),
        ));
    }

    /**
     * @param list<string> $carried as carried() gives them
     *
     * @return list<?string> cells of a record
     */
    public function cells(DecisionRowView $row, array $carried): array
    {
        $places = array_flip($carried);
        $own = ListCells::of($row->place, $row->left, $row->chance, $row->value, $row->return, $row->rank);

        return array_map(fn (string $of): ?string => match ($of) {
            '=record' => (string) $row->number,
            '=action' => $row->action,
            '=because' => $row->because,
            '=status' => $this->status,
            default => \array_key_exists(ltrim($of, '='), $own) && '=' === $of[0] ? $own[ltrim($of, '=')] : $row->cells[$places[$of]],
        }, $this->of);
    }
}
