<?php

declare(strict_types=1);

namespace App\Table;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Question\OpenCells;
use App\Question\Seal;
use App\Source\Portion;
use App\Source\Upload;
use App\Source\Uploads;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\Dialect;

/** Starts imports and pages through records. */
final readonly class Tables
{
    private const QUICK_BYTES = 8 << 20;

    public function __construct(private EntityManagerInterface $entities, private Jobs $jobs, private Uploads $uploads, private OpenCells $reader, private Selections $selections)
    {
    }

    public function import(Study $study, User $user, Upload $upload, string $name, ?Dialect $dialect, Portion $portion = new Portion()): Job
    {
        if (!$upload->isComplete()) {
            throw new Problem(409, \sprintf('Only %s of %s bytes have arrived; send the rest first.', number_format($upload->received()), number_format($upload->size())));
        }
        $dialect ??= $this->uploads->reading($upload, null, $portion)->dialect;
        // How much a database will send, and how long a statement takes, is not known before.
        $isDatabase = $this->uploads->isDatabase($upload);
        $large = $upload->size() > self::QUICK_BYTES || $isDatabase;

        return $this->entities->getConnection()->transactional(function () use ($study, $user, $upload, $name, $dialect, $portion, $isDatabase, $large): Job {
            $edition = 1 + $this->entities->getRepository(DataTable::class)->count(['study' => $study, 'name' => $name, 'state' => DataTable::READY]);
            $table = new DataTable($study, $name, $upload->fileName(), $upload->size(), $dialect->toArray(), $edition);
            $this->entities->persist($table);
            $this->entities->flush();
            $job = $this->jobs->start($study, $user, ImportRunner::KIND, $table->id(), \sprintf('Reading %s', $upload->fileName()), $large ? Jobs::LONG : Jobs::QUICK, ImportRunner::pieces($upload, $large, $portion, $isDatabase ? Jobs::LONG : Jobs::QUICK));
            $this->entities->flush();

            return $job;
        });
    }

    /** @throws Problem when there is no record in it, so that nothing would be left to look at */
    public function refuseEmpty(Upload $upload): void
    {
        if (!$upload->isComplete() || null !== $upload->connection()) {
            return;
        }
        $reading = $this->uploads->reading($upload);
        if ([] === $reading->records) {
            throw Problem::invalid(\sprintf('%s holds a header and no record: there is nothing to begin a study with. Nothing was kept.', $upload->fileName()), 'uploadId');
        }
    }

    /** The table, once it is read to its end. */
    public static function ready(DataTable $table): DataTable
    {
        return $table->isReady() ? $table : throw new Problem(409, 'The table is still being read.');
    }

    /** @return list<DataTable> */
    public function of(Study $study): array
    {
        return $this->entities->getRepository(DataTable::class)->findBy(['study' => $study, 'state' => [DataTable::READY, DataTable::IMPORTING]], ['id' => 'ASC']);
    }

    public function rows(DataTable $table, RowQuery $query): RowsView
    {
        $columns = $query->columnNames();
        $limit = max(1, min(200, $query->limit));
        $sort = null === $query->sort ? null : $table->column($query->sort) ?? throw Problem::invalid(\sprintf('There is no column %s to sort by.', $query->sort), 'sort');
        if ($query->narrows()) {
            $found = $this->selections->find($table, $query);
            $offset = max(0, min($query->offset, max(0, $found->count - 1)));

            return $this->page($table, $found->page($offset, $limit), $columns, $found->count, $offset, $found);
        }
        $offset = max(0, min($query->offset, max(0, $table->rows() - 1)));
        if (null !== $sort) {
            $wanted = $this->reader->ordered($sort, $query->descending, $offset, $limit);
        } else {
            $wanted = range($offset, max($offset, min($table->rows(), $offset + $limit) - 1));
            $wanted = $query->descending ? array_map(static fn (int $r) => $table->rows() - 1 - $r, $wanted) : $wanted;
        }

        return $this->page($table, $table->rows() > 0 ? $wanted : [], $columns, $table->rows(), $offset);
    }

    /**
     * @param list<int>     $rows
     * @param ?list<string> $names
     */
    private function page(DataTable $table, array $rows, ?array $names, int $total, int $offset, ?Selection $found = null): RowsView
    {
        $cells = $this->reader->rows($table, $rows, $names);
        $shown = array_values(array_filter(array_map(static fn (TableColumn $c) => $c->name(), $table->columns()), static fn (string $name) => null === $names || \in_array($name, $names, true)));

        $seal = Seal::of($table->study());
        $hidden = $seal->hiddenColumns($table);
        $sealed = [] === $hidden ? [] : array_fill_keys($seal->rowsIn($table), true);

        return new RowsView($total, $offset, $shown, array_map(static fn (int $r) => new RowView($r + 1, $cells[$r], isset($sealed[$r])), array_keys($cells)), $table->rows(), $found->without ?? [], $found->sealed ?? 0, $found?->share, $hidden);
    }
}
