<?php

declare(strict_types=1);

namespace App\Combine;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Question\OpenCells;
use App\Question\Questions;
use App\Table\DataTable;
use App\Table\TableColumn;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Combine\CannotCombine;
use Dokimos\Core\Combine\Combination;
use Dokimos\Core\Combine\CombineToll;
use Dokimos\Core\Combine\Picking;
use Dokimos\Core\Combine\Reshaping;
use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Table\Column;

/** Makes tables from others by combinations that are kept. */
final readonly class Combinations
{
    private const SHOWN = 10;
    /** Cells of a table that are held while a page waits: 320 MB. */
    private const MOST_CELLS = 20_000_000;

    public function __construct(private EntityManagerInterface $entities, private OpenCells $reader, private Jobs $jobs, private Questions $questions)
    {
    }

    public function preview(DataTable $table, ?DataTable $other, Combination $combination): CombineView
    {
        if ($combination instanceof Picking) {
            return $this->picked($table, $combination);
        }
        \assert($combination instanceof Reshaping);
        array_map(self::refuseLarge(...), array_filter([$table, $other]));
        try {
            $cells = $this->reader->table($table);
            $beside = null === $other ? null : $this->reader->table($other);
            $toll = $combination->toll($cells, $beside);
            $made = $combination->apply($cells, $beside);
        } catch (CannotCombine $e) {
            throw Problem::invalid($e->getMessage(), 'combination');
        }
        $records = [];
        for ($row = 0; $row < min(self::SHOWN, $made->rows); ++$row) {
            $records[] = array_values(array_map(static fn (Column $c) => $c->text($row), $made->columns()));
        }

        return new CombineView($combination->sentence(), $toll, $made->names(), $records, $this->sealed($table, $other));
    }

    private function picked(DataTable $table, Picking $combination): CombineView
    {
        $first = [];
        foreach ($combination->rows($table->rows()) as $row) {
            $first[] = $row;
            if (self::SHOWN === \count($first)) {
                break;
            }
        }
        $names = array_map(static fn (TableColumn $c): string => $c->name(), $table->columns());
        $toll = new CombineToll($table->rows(), $combination->count($table->rows()), \count($names), \count($names), 0, 0, 0);
        $records = array_values($this->reader->rows($table, $first));

        return new CombineView($combination->sentence(), $toll, $names, $records, $this->sealed($table, null));
    }

    private static function refuseLarge(DataTable $table): void
    {
        $cells = $table->rows() * \count($table->columns());
        if ($cells > self::MOST_CELLS) {
            throw Problem::invalid(
                \sprintf(
                    'Tables of up to %d million cells are combined; %s has %.0f million. Draw some of its records first.',
                    intdiv(self::MOST_CELLS, 1_000_000),
                    $table->name(),
                    $cells / 1e6,
                ),
                'combination',
            );
        }
    }

    private function sealed(DataTable $table, ?DataTable $other): ?string
    {
        foreach (array_filter([$table, $other]) as $one) {
            $seal = $this->questions->seal($one->study());
            $hidden = $seal->hiddenColumns($one);
            if ([] !== $hidden) {
                return \sprintf(1 === \count($hidden) ? '%s stays sealed in %s records of %s: it is empty there, and what is made of it is set aside.' : '%s stay sealed in %s records of %s: they are empty there, and what is made of them is set aside.', Words::listed($hidden), number_format(\count($seal->rowsIn($one))), $one->name());
            }
        }

        return null;
    }

    /**
     * How new records get the columns of a table that was made by a combination.
     *
     * @return ?FollowView null when the table was imported, or the combination asks for what the new records do not have
     */
    public function leadingTo(DataTable $made, DataTable $new): ?FollowView
    {
        $kept = $this->entities->find(KeptCombination::class, $made->id());
        if (null === $kept || $made === $new) {
            return null;
        }
        $combination = $kept->combination();
        // What is drawn has the columns that it was drawn from.
        if (!$combination instanceof Reshaping || $new->rows() * \count($new->columns()) > self::MOST_CELLS) {
            return null;
        }
        try {
            $toll = $combination->toll($this->reader->table($new), null === $kept->other() ? null : $this->reader->table($kept->other()));
        } catch (CannotCombine) {
            return null;
        }
        $ready = null;
        foreach ($this->entities->getRepository(KeptCombination::class)->findBy(['source' => $new, 'other' => $kept->other()], ['table' => 'DESC']) as $earlier) {
            if ($earlier->table()->isReady() && $earlier->combination()->toArray() === $combination->toArray()) {
                $ready ??= $earlier->table()->id();
            }
        }

        return new FollowView($made->id(), $made->name(), $combination->sentence(), $toll, $ready);
    }

    public function start(DataTable $table, ?DataTable $other, Combination $combination, string $name, User $user): Job
    {
        $name = trim($name);
        if ('' === $name) {
            throw Problem::invalid('The table needs a name.', 'name');
        }
        if (null !== $this->entities->getRepository(DataTable::class)->findOneBy(['study' => $table->study(), 'name' => $name, 'state' => [DataTable::READY, DataTable::IMPORTING]])) {
            throw Problem::invalid(\sprintf('There is a table %s already; choose another name.', $name), 'name');
        }
        $made = new DataTable($table->study(), $name, $name, 0, []);
        $this->entities->persist($made);
        $this->entities->flush();
        $this->entities->persist(new KeptCombination($made, $table, $other, $combination->toArray()));
        $large = $table->rows() * \count($table->columns()) > 1_000_000;
        $job = $this->jobs->start($table->study(), $user, CombineRunner::KIND, $made->id(), \sprintf('Making %s', $name), $large ? Jobs::LONG : Jobs::QUICK, ['make' => []]);
        $this->entities->flush();

        return $job;
    }
}
