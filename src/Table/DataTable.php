<?php

declare(strict_types=1);

namespace App\Table;

use App\Study\InStudy;
use App\Study\Study;
use Doctrine\Common\Collections\ArrayCollection;
use Doctrine\Common\Collections\Collection;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Format\Dialect;

/** Records imported from a file, never changed after import. */
#[ORM\Entity]
class DataTable implements InStudy
{
    public const IMPORTING = 'importing';
    public const READY = 'ready';
    public const FAILED = 'failed';
    /** What a model said of the records of another table: read with its batch, and not among the tables of a study. */
    public const SCORED = 'scored';

    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(length: 20)]
    private string $state = self::IMPORTING;

    #[ORM\Column(name: 'row_count')]
    private int $rows = 0;

    #[ORM\Column(length: 64)]
    private string $fingerprint = '';

    /** @var list<string> */
    #[ORM\Column(type: Types::JSON)]
    private array $repairs = [];

    /** Rows that are sealed records of an earlier edition, packed as uint32. */
    #[ORM\Column(type: Types::TEXT, nullable: true)]
    private ?string $sealedRecords = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $importedAt;

    /** @var Collection<int, TableColumn> */
    #[ORM\OneToMany(targetEntity: TableColumn::class, mappedBy: 'table', cascade: ['persist', 'remove'])]
    #[ORM\OrderBy(['position' => 'ASC'])]
    private Collection $columns;

    /** @param array<string, mixed> $dialect */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\Column(length: 120)]
        private string $name,
        #[ORM\Column(length: 255)]
        private string $fileName,
        #[ORM\Column(type: Types::BIGINT)]
        private int $bytes,
        #[ORM\Column(type: Types::JSON)]
        private array $dialect,
        #[ORM\Column]
        private int $edition = 1,
    ) {
        $this->importedAt = new \DateTimeImmutable();
        $this->columns = new ArrayCollection();
    }

    /** A table for the answers to as many records. */
    public static function scored(Study $study, string $name, int $rows): self
    {
        $table = new self($study, $name, '', 0, []);
        $table->state = self::SCORED;
        $table->rows = $rows;

        return $table;
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function study(): Study
    {
        return $this->study;
    }

    /** @param list<int> $rows */
    public function sealRecords(array $rows): void
    {
        $this->sealedRecords = [] === $rows ? null : base64_encode(pack('V*', ...$rows));
    }

    /** @return list<int> rows of this edition that are sealed records of the edition that the study is about */
    public function sealedRecords(): array
    {
        /** @var array<int, int> $rows */
        $rows = null === $this->sealedRecords ? [] : (unpack('V*', (string) base64_decode($this->sealedRecords, true)) ?: []);

        return array_values($rows);
    }

    public function name(): string
    {
        return $this->name;
    }

    public function fileName(): string
    {
        return $this->fileName;
    }

    public function bytes(): int
    {
        return $this->bytes;
    }

    public function edition(): int
    {
        return $this->edition;
    }

    public function dialect(): Dialect
    {
        return Dialect::fromArray($this->dialect);
    }

    public function rows(): int
    {
        return $this->rows;
    }

    public function state(): string
    {
        return $this->state;
    }

    public function isReady(): bool
    {
        return self::READY === $this->state;
    }

    /** @param list<string> $repairs */
    public function describe(int $rows, string $fingerprint, array $repairs): void
    {
        $this->rows = $rows;
        $this->fingerprint = $fingerprint;
        $this->repairs = $repairs;
    }

    /** Its source was written anew. */
    public function rewrite(Dialect $dialect, int $bytes, string $fingerprint): void
    {
        $this->dialect = $dialect->toArray();
        $this->bytes = $bytes;
        $this->fingerprint = $fingerprint;
    }

    public function becomeReady(): void
    {
        $this->state = self::READY;
    }

    public function fail(): void
    {
        $this->state = self::FAILED;
    }

    /** Identifies the content: the hash of the source bytes and how they were read. */
    public function fingerprint(): string
    {
        return $this->fingerprint;
    }

    /** @return list<string> */
    public function repairs(): array
    {
        return $this->repairs;
    }

    public function importedAt(): \DateTimeImmutable
    {
        return $this->importedAt;
    }

    public function addColumn(TableColumn $column): void
    {
        $this->columns->add($column);
    }

    /** @return list<TableColumn> */
    public function columns(): array
    {
        return array_values($this->columns->toArray());
    }

    public function column(string $name): ?TableColumn
    {
        foreach ($this->columns as $column) {
            if ($column->name() === $name) {
                return $column;
            }
        }

        return null;
    }
}
