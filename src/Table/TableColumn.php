<?php

declare(strict_types=1);

namespace App\Table;

use App\Study\InStudy;
use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;

/** A column of a table: its kind, its use, whether it is known when the decision is made, and its profile. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['table_id', 'position'])]
class TableColumn implements InStudy
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Version, ORM\Column(type: 'integer')]
    private int $version = 1;

    #[ORM\Column(name: 'column_use', enumType: ColumnUse::class)]
    private ColumnUse $use = ColumnUse::Input;

    #[ORM\Column]
    private bool $known = true;

    /** @var list<string> */
    #[ORM\Column(type: Types::JSON)]
    private array $levels = [];

    /** @var array<string, mixed> */
    #[ORM\Column(type: Types::JSON)]
    private array $profile = [];

    /** @var list<array{int, string}> row and text of cells that do not fit the kind */
    #[ORM\Column(type: Types::JSON)]
    private array $misfits = [];

    #[ORM\Column]
    private int $misfitCount = 0;

    /**
     * What may be known of the column while some of its cells are sealed; null when none is.
     *
     * @var array{levels: list<string>, profile: array<string, mixed>, misfits: list<array{int, string}>, misfitCount: int}|null
     */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $visible = null;

    public function __construct(
        #[ORM\ManyToOne(inversedBy: 'columns', fetch: 'EAGER'), ORM\JoinColumn(name: 'table_id', nullable: false, onDelete: 'CASCADE')]
        private DataTable $table,
        #[ORM\Column]
        private int $position,
        #[ORM\Column(length: 255)]
        private string $name,
        #[ORM\Column(enumType: Kind::class)]
        private Kind $kind = Kind::Text,
    ) {
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function version(): int
    {
        return $this->version;
    }

    public function study(): Study
    {
        return $this->table->study();
    }

    public function table(): DataTable
    {
        return $this->table;
    }

    public function position(): int
    {
        return $this->position;
    }

    public function name(): string
    {
        return $this->name;
    }

    public function kind(): Kind
    {
        return $this->kind;
    }

    public function use(): ColumnUse
    {
        return $this->use;
    }

    public function changeUse(ColumnUse $use): void
    {
        $this->use = $use;
    }

    /** Whether the value is there at the moment the decision is made. */
    public function isKnown(): bool
    {
        return $this->known;
    }

    public function setKnown(bool $known): void
    {
        $this->known = $known;
    }

    public function mayServe(): bool
    {
        return ColumnUse::Input === $this->use && $this->known;
    }

    /**
     * @param list<string>             $levels
     * @param array<string, mixed>     $profile
     * @param list<array{int, string}> $misfits
     */
    public function describe(Kind $kind, array $levels, array $profile, array $misfits, int $misfitCount): void
    {
        $this->kind = $kind;
        $this->levels = $levels;
        $this->profile = $profile;
        $this->misfits = $misfits;
        $this->misfitCount = $misfitCount;
        $this->visible = null;
    }

    /** @param array{levels: list<string>, profile: array<string, mixed>, misfits: list<array{int, string}>, misfitCount: int}|null $visible */
    public function show(?array $visible): void
    {
        $this->visible = $visible;
    }

    public function isShownInPart(): bool
    {
        return null !== $this->visible;
    }

    /** @return list<string> the levels that stored codes mean, whether or not a visible cell has them */
    public function storedLevels(): array
    {
        return $this->levels;
    }

    /** @return list<array{int, string}> */
    public function storedMisfits(): array
    {
        return $this->misfits;
    }

    /** @return list<string> */
    public function levels(): array
    {
        return $this->visible['levels'] ?? $this->levels;
    }

    /** @return array<string, mixed> */
    public function profile(): array
    {
        return $this->visible['profile'] ?? $this->profile;
    }

    /** @return list<array{int, string}> */
    public function misfits(): array
    {
        return $this->visible['misfits'] ?? $this->misfits;
    }

    public function misfitCount(): int
    {
        return $this->visible['misfitCount'] ?? $this->misfitCount;
    }

    /** @return array{string, string, string, bool} what a model learned from it depends on */
    public function stamp(): array
    {
        return [$this->name, $this->kind->value, $this->use->value, $this->known];
    }
}
