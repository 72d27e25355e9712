<?php

declare(strict_types=1);

namespace App\Table;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\Dialect;

/** Starts imports and pages through records. */
final readonly class Tables
{
    private const QUICK_BYTES = 8 << 20;

    public function __construct(private EntityManagerInterface $entities, private Jobs $jobs, private Uploads $uploads, private TableReader $reader)
    {
    }

    public function import(Study $study, User $user, Upload $upload, string $name, ?Dialect $dialect): Job
    {
        if (!$upload->isComplete()) {
            throw new Problem(409, \sprintf('Only %s of %s bytes have arrived; send the rest first.', number_format($upload->received()), number_format($upload->size())));
        }
        $dialect ??= $this->uploads->reading($upload)->dialect;
        $edition = 1 + $this->entities->getRepository(DataTable::class)->count(['study' => $study, 'name' => $name, 'state' => DataTable::READY]);
        $table = new DataTable($study, $name, $upload->fileName(), $upload->size(), $dialect->toArray(), $edition);
        $this->entities->persist($table);
        $this->entities->flush();
        $large = $upload->size() > self::QUICK_BYTES;
        $job = $this->jobs->start($study, $user, ImportRunner::KIND, $table->id(), \sprintf('Reading %s', $upload->fileName()), $large ? Jobs::LONG : Jobs::QUICK, ImportRunner::pieces($upload, $large));
        $this->entities->flush();

        return $job;
    }

    /** @return list<DataTable> */
    public function of(Study $study): array
    {
        return $this->entities->getRepository(DataTable::class)->findBy(['study' => $study, 'state' => [DataTable::READY, DataTable::IMPORTING]], ['id' => 'ASC']);
    }

    public function rows(DataTable $table, int $offset, int $limit, ?string $sort, bool $descending): RowsView
    {
        $limit = max(1, min(200, $limit));
        $offset = max(0, min($offset, max(0, $table->rows() - 1)));
        if (null !== $sort) {
            $column = $table->column($sort) ?? throw Problem::invalid(\sprintf('There is no column %s to sort by.', $sort), 'sort');
            $order = $this->reader->order($column);
            $wanted = \array_slice($descending ? self::descending($order, (int) ($column->profile()['missing'] ?? 0)) : $order, $offset, $limit);
        } else {
            $wanted = range($offset, max($offset, min($table->rows(), $offset + $limit) - 1));
            $wanted = $descending ? array_map(static fn (int $r) => $table->rows() - 1 - $r, $wanted) : $wanted;
        }
        $cells = $table->rows() > 0 ? $this->reader->rows($table, $wanted) : [];

        return new RowsView($table->rows(), $offset, array_map(static fn (TableColumn $c) => $c->name(), $table->columns()), array_map(static fn (int $r) => new RowView($r + 1, $cells[$r]), array_keys($cells)));
    }

    /**
     * Missing cells stay last in either direction.
     *
     * @param list<int> $order
     *
     * @return list<int>
     */
    private static function descending(array $order, int $missing): array
    {
        $known = \count($order) - $missing;

        return [...array_reverse(\array_slice($order, 0, $known)), ...\array_slice($order, $known)];
    }
}
