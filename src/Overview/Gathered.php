<?php

declare(strict_types=1);

namespace App\Overview;

use App\Logbook\LogEntry;
use App\Question\Question;
use App\Score\Scoring;
use App\Study\Study;
use App\Table\DataTable;
use App\Trial\Trial;
use Doctrine\DBAL\ArrayParameterType;
use Doctrine\ORM\EntityManagerInterface;

/** What several studies hold, asked once for all of them: a home page of many studies asks as often as one of a few. */
final readonly class Gathered
{
    /** Batches that are told of a study. */
    private const BATCHES = 5;

    /**
     * @param array<int, list<StudyTableView>> $tables   by study, as they were imported
     * @param array<int, int>                  $columns  how many each table has, by table
     * @param array<int, list<Trial>>          $trials   by study, in the order of their numbers
     * @param array<int, list<Scoring>>        $scorings by study, the last first
     * @param array<int, int>                  $said     entries of the logbook, by study
     * @param array<int, LogEntry>             $last     of them, by study
     * @param array<int, list<Study>>          $others   studies about the same records, by study
     */
    private function __construct(
        public array $tables,
        public array $columns,
        public array $trials,
        public array $scorings,
        public array $said,
        public array $last,
        public array $others,
    ) {
    }

    /** @param list<Study> $studies */
    public static function of(EntityManagerInterface $entities, array $studies): self
    {
        $ids = array_map(static fn (Study $s): int => $s->id(), $studies);
        $others = self::pairs($entities, $ids);
        $all = array_values(array_unique([...$ids, ...array_merge([], ...array_values($others))]));
        // Found here, they are at hand wherever they are asked for.
        $entities->getRepository(Question::class)->findBy(['study' => $all]);
        $found = [];
        foreach ($entities->getRepository(Study::class)->findBy(['id' => $all]) as $study) {
            $found[$study->id()] = $study;
        }
        $columns = array_column(self::numbers(
            $entities,
            'SELECT t.id, COUNT(c.id) AS n FROM data_table t JOIN table_column c ON c.table_id = t.id WHERE t.study_id IN (?) GROUP BY t.id',
            $ids,
        ), 'n', 'id');
        $entries = self::numbers(
            $entities,
            'SELECT study_id AS id, COUNT(*) AS n, MAX(id) AS last FROM log_entry WHERE study_id IN (?) GROUP BY study_id',
            $ids,
        );
        $last = [];
        foreach ($entities->getRepository(LogEntry::class)->findBy(['id' => array_column($entries, 'last')]) as $entry) {
            $last[$entry->study()->id()] = $entry;
        }

        return new self(
            self::tables($entities, $ids, $columns),
            $columns,
            self::by(
                static fn (Trial $t): int => $t->study()->id(),
                $entities->getRepository(Trial::class)->findBy(['question' => $ids], ['number' => 'ASC']),
            ),
            self::by(static fn (Scoring $s): int => $s->study()->id(), $entities->getRepository(Scoring::class)->findBy(['id' => array_column(
                self::numbers(
                    $entities,
                    'SELECT s.id FROM (SELECT id, ROW_NUMBER() OVER (PARTITION BY study_id ORDER BY id DESC) AS place FROM scoring'
                    .' WHERE study_id IN (?)) s WHERE s.place <= '.self::BATCHES,
                    $ids,
                ),
                'id',
            )], ['id' => 'DESC'])),
            array_column($entries, 'n', 'id'),
            $last,
            array_map(
                static fn (array $of): array => array_values(array_filter(array_map(static fn (int $id): ?Study => $found[$id] ?? null, $of))),
                $others,
            ),
        );
    }

    /**
     * Their lines alone: hundreds of tables, with all that is known of each, would take the time of a page.
     *
     * @param list<int>       $ids
     * @param array<int, int> $columns
     *
     * @return array<int, list<StudyTableView>> by study
     */
    private static function tables(EntityManagerInterface $entities, array $ids, array $columns): array
    {
        $out = [];
        foreach ($entities->getConnection()->fetchAllAssociative(
            'SELECT study_id, id, name, state, row_count, edition FROM data_table WHERE study_id IN (?) AND state IN (?) ORDER BY id',
            [$ids, [DataTable::READY, DataTable::IMPORTING]],
            [ArrayParameterType::INTEGER, ArrayParameterType::STRING],
        ) as ['study_id' => $study, 'id' => $id, 'name' => $name, 'state' => $state, 'row_count' => $rows, 'edition' => $edition]) {
            \assert(is_numeric($study) && is_numeric($id) && \is_string($name) && \is_string($state));
            \assert(is_numeric($rows) && is_numeric($edition));
            $id = (int) $id;
            $out[(int) $study][] = new StudyTableView($id, $name, $state, (int) $rows, $columns[$id] ?? 0, (int) $edition);
        }

        return $out;
    }

    /**
     * Other studies that ask of a table with the same records.
     *
     * @param list<int> $ids
     *
     * @return array<int, list<int>> by study
     */
    private static function pairs(EntityManagerInterface $entities, array $ids): array
    {
        $out = [];
        foreach (self::numbers(
            $entities,
            // From the few tables that are asked about: a file that was imported a hundred times is looked at once.
            "SELECT t.study_id AS id, o.id AS other, MIN(m.id) AS first FROM
             (SELECT DISTINCT study_id, fingerprint FROM data_table WHERE study_id IN (?) AND state = 'ready') t
             JOIN data_table m ON m.fingerprint = t.fingerprint AND m.state = 'ready'
             AND m.id IN (SELECT table_id FROM question WHERE table_id IS NOT NULL)
             JOIN question q ON q.table_id = m.id JOIN study o ON o.id = q.study_id
             WHERE o.id <> t.study_id AND o.deleted_at IS NULL
             GROUP BY t.study_id, o.id ORDER BY first, other",
            $ids,
        ) as $pair) {
            $out[$pair['id']][] = $pair['other'];
        }

        return $out;
    }

    /**
     * @param list<int> $ids
     *
     * @return list<array<string, int>>
     */
    private static function numbers(EntityManagerInterface $entities, string $sql, array $ids): array
    {
        return array_map(
            static fn (array $row): array => array_map(static fn (mixed $v): int => is_numeric($v) ? (int) $v : 0, $row),
            $entities->getConnection()->fetchAllAssociative($sql, [$ids], [ArrayParameterType::INTEGER]),
        );
    }

    /**
     * @template T of object
     *
     * @param \Closure(T): int $study
     * @param array<T>         $things
     *
     * @return array<int, list<T>>
     */
    private static function by(\Closure $study, array $things): array
    {
        $out = [];
        foreach ($things as $thing) {
            $out[$study($thing)][] = $thing;
        }

        return $out;
    }
}
