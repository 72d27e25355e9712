<?php

declare(strict_types=1);

namespace App\Trial;

use App\Study\InStudy;
use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Validate\ColumnChoice;

/** A choice of columns under a name, to be used again in the study. */
#[ORM\Entity]
#[ORM\Table(name: 'column_choice')]
#[ORM\UniqueConstraint(columns: ['study_id', 'name'])]
class NamedChoice implements InStudy
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    /** @param array{names: list<string>, without: bool} $columns */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\Column(length: 80)]
        private string $name,
        #[ORM\Column(type: Types::JSON)]
        private array $columns,
    ) {
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function study(): Study
    {
        return $this->study;
    }

    public function name(): string
    {
        return $this->name;
    }

    public function choice(): ColumnChoice
    {
        return ColumnChoice::fromArray($this->columns);
    }

    public function choose(ColumnChoice $choice): void
    {
        $this->columns = $choice->toArray();
    }
}
