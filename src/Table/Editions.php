<?php

declare(strict_types=1);

namespace App\Table;

use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;

/** A later import under the same name is the next edition: kinds and uses carry over, and what differs is listed. */
final readonly class Editions
{
    /** A share of missing cells that moved by so much is worth a word. */
    private const MISSING_MOVED = 0.05;

    public function __construct(private EntityManagerInterface $entities)
    {
    }

    /** The latest edition before; null for a first import. */
    public function before(Study $study, string $name, int $edition): ?DataTable
    {
        foreach ($this->entities->getRepository(DataTable::class)->findBy(['study' => $study, 'name' => $name, 'state' => DataTable::READY], ['edition' => 'DESC']) as $table) {
            if ($table->edition() < $edition) {
                return $table;
            }
        }

        return null;
    }

    /** Whether a table is a later edition of another. */
    public static function isLater(DataTable $table, DataTable $than): bool
    {
        return $table->study() === $than->study() && $table->name() === $than->name() && $table->edition() > $than->edition();
    }

    /** @return array<string, Kind> the kinds settled in the edition before, by column name */
    public function kinds(DataTable $table): array
    {
        $kinds = [];
        foreach ($this->before($table->study(), $table->name(), $table->edition())?->columns() ?? [] as $column) {
            $kinds[$column->name()] = $column->kind();
        }

        return $kinds;
    }

    /** Uses, and what is known when, as they were settled; the target of the study stays with its own table. */
    public function carryOver(DataTable $table): void
    {
        $before = $this->before($table->study(), $table->name(), $table->edition());
        foreach ($before?->columns() ?? [] as $old) {
            $column = $table->column($old->name());
            if (null !== $column) {
                $column->changeUse(ColumnUse::Target === $old->use() ? ColumnUse::Input : $old->use());
                $column->setKnown($old->isKnown());
            }
        }
    }

    public function differences(DataTable $table): ?EditionView
    {
        $before = $this->before($table->study(), $table->name(), $table->edition());
        if (null === $before) {
            return null;
        }
        $says = [];
        foreach ($before->columns() as $old) {
            if (null === $table->column($old->name())) {
                $says[] = new DifferenceView($old->name(), \sprintf('%s is not there any more.', $old->name()));
            }
        }
        foreach ($table->columns() as $column) {
            $old = $before->column($column->name());
            $sentence = null === $old ? \sprintf('%s is new (%s).', $column->name(), $column->kind()->value) : self::difference($old, $column);
            if (null !== $sentence) {
                $says[] = new DifferenceView($column->name(), $sentence);
            }
        }

        return new EditionView($before->id(), $before->edition(), $before->importedAt()->format(\DATE_ATOM), $before->rows(), $table->rows(), $says);
    }

    private static function difference(TableColumn $old, TableColumn $new): ?string
    {
        $was = ColumnView::of($old);
        $is = ColumnView::of($new);
        $out = [];
        if ($new->misfitCount() > 0) {
            $out[] = \sprintf('%s the kind %s, first "%s"', 1 === $new->misfitCount() ? '1 cell does not fit' : number_format($new->misfitCount()).' cells do not fit', $new->kind()->value, mb_strimwidth($new->misfits()[0][1] ?? '', 0, 40, '…'));
        }
        if (abs($is->missingShare - $was->missingShare) >= self::MISSING_MOVED) {
            $out[] = \sprintf('missing in %.1f%%, before in %.1f%%', 100 * $is->missingShare, 100 * $was->missingShare);
        }
        if ($new->kind()->isCoded() && $old->kind()->isCoded()) {
            $fresh = array_values(array_diff($new->levels(), $old->levels()));
            if ([] !== $fresh) {
                $out[] = \sprintf('%s: %s', 1 === \count($fresh) ? 'a new value' : \count($fresh).' new values', implode(', ', \array_slice($fresh, 0, 5)).(\count($fresh) > 5 ? ', …' : ''));
            }
        }

        return [] === $out ? null : \sprintf('%s: %s.', $new->name(), implode('; ', $out));
    }
}
