<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Findings\Outcome\EventOutcome;
use Dokimos\Core\Findings\Outcome\Outcome;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Table;

/** What is looked at: a table or a sample of it, what its columns are for, and the target on unsealed rows. */
final readonly class Subject
{
    /** What columns are asked about; null without a target. */
    public ?Outcome $outcome;

    /**
     * @param array<array-key, ColumnUse>          $uses   by column name; input when left out
     * @param list<string>                         $late   columns known only after the decision
     * @param ?list<float>                         $event  of a target that is an event: 1, 0, or NAN where it is unknown or sealed
     * @param list<string>                         $hidden columns that are empty in sealed rows, where nothing is missing
     * @param ?list<int>                           $open   rows that are not sealed; all when null
     * @param array<array-key, array<string, int>> $marks  how many cells of a column of numbers were written with each mark; "" = without
     * @param ?Outcome                             $asked  the target, where it is no event
     *
     * @throws \LengthException events need one value per row
     */
    public function __construct(public Table $table, public array $uses = [], public array $late = [], public ?string $target = null, public ?string $eventName = null, public ?array $event = null, public ?int $today = null, public array $hidden = [], public ?array $open = null, ?Outcome $asked = null, public array $marks = [])
    {
        $this->outcome = $asked ?? (null === $event ? null : new EventOutcome($event));
        if (null !== $event && \count($event) !== $table->rows) {
            throw new \LengthException('Events need one value per row.');
        }
    }

    public function use(string $name): ColumnUse
    {
        return $this->uses[$name] ?? ColumnUse::Input;
    }

    public function mayTell(string $name): bool
    {
        return $name !== $this->target && ColumnUse::Input === $this->use($name) && !\in_array($name, $this->late, true);
    }
}
