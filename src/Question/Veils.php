<?php

declare(strict_types=1);

namespace App\Question;

use App\Study\Study;
use App\Table\DataTable;
use App\Table\Editions;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\ColumnProfile;

/** Keeps what the Register says of columns in step with the seal: a column with hidden cells is described by the others. */
final readonly class Veils
{
    public function __construct(private EntityManagerInterface $entities, private SealedCells $cells, private Questions $questions)
    {
    }

    /** After the draw, an opening, an import or a change of what is known when. */
    public function draw(Study $study): void
    {
        foreach ($this->entities->getRepository(DataTable::class)->findBy(['study' => $study, 'state' => DataTable::READY]) as $table) {
            $this->over($table);
        }
    }

    /** For studies whose target was chosen before columns were described by their visible cells. */
    public function drawMissing(): void
    {
        foreach ($this->entities->getRepository(Study::class)->findAll() as $study) {
            $table = $this->questions->of($study)->table();
            $target = null === $table || null === $this->questions->of($study)->target() ? null : $table->column($this->questions->of($study)->target());
            if (null !== $target && [] !== $this->questions->seal($study)->hidden($target) && !$target->isShownInPart()) {
                $this->draw($study);
            }
        }
        $this->entities->flush();
    }

    public function over(DataTable $table): void
    {
        $seal = $this->questions->seal($table->study());
        $source = $this->questions->of($table->study())->table();
        $isEdition = null !== $source && $table !== $source && Editions::isLater($table, $source);
        $table->sealRecords($isEdition && $seal->isClosed() ? $this->same($source, $seal->rows(), $table) : []);
        foreach ($table->columns() as $column) {
            $hidden = array_fill_keys($seal->hidden($column), true);
            if ([] === $hidden) {
                $column->show(null);
                continue;
            }
            $open = array_values(array_filter(range(0, $table->rows() - 1), static fn (int $row) => !isset($hidden[$row])));
            $misfits = array_values(array_filter($column->storedMisfits(), static fn (array $m) => !isset($hidden[$m[0]])));
            $column->show(ColumnProfile::of($this->cells->column($column)->take($open)) + ['misfits' => $misfits, 'misfitCount' => \count($misfits)]);
        }
    }

    /**
     * Rows of a later edition that are sealed records of the first: by what both tell of a record besides what is hidden.
     *
     * @param list<int> $sealed
     *
     * @return list<int>
     */
    private function same(DataTable $source, array $sealed, DataTable $edition): array
    {
        $names = [];
        foreach ($source->columns() as $column) {
            if ($column->isKnown() && $column->name() !== $this->questions->of($source->study())->target() && null !== $edition->column($column->name())) {
                $names[] = $column->name();
            }
        }
        $marks = array_flip($this->marks($source, $names, $sealed));
        $rows = $edition->rows() > 0 ? range(0, $edition->rows() - 1) : [];

        return [] === $names ? $rows : array_keys(array_filter($this->marks($edition, $names, $rows), static fn (string $mark) => isset($marks[$mark])));
    }

    /**
     * @param list<string> $names
     * @param list<int>    $rows
     *
     * @return list<string>
     */
    private function marks(DataTable $table, array $names, array $rows): array
    {
        $cells = $this->cells->table($table, $names, $rows);
        $marks = array_fill(0, \count($rows), '');
        // By name: an edition may have its columns in another order.
        sort($names);
        foreach ($names as $name) {
            $column = $cells->column($name);
            foreach ($marks as $i => $mark) {
                $marks[$i] = hash('xxh3', $mark."\1".($column->text($i) ?? "\0"));
            }
        }

        return $marks;
    }
}
