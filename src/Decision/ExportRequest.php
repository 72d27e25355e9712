<?php

declare(strict_types=1);

namespace App\Decision;

use Dokimos\Core\Format\TableTarget;
use Symfony\Component\Validator\Constraints as Assert;

/** A list as a table of a database: where, under which name, and what becomes of one that is there. */
final readonly class ExportRequest
{
    /**
     * @param ?int              $connectionId to a server; null = a new SQLite file
     * @param ?string           $key          name, as it is written, of the column that tells records apart
     * @param list<TakenColumn> $columns      none = what a list has by itself
     */
    public function __construct(
        public ?int $connectionId = null,
        #[Assert\NotBlank(message: 'The table needs a name.'), Assert\Length(max: 120)]
        public string $table = '',
        #[Assert\Choice([TableTarget::CREATE, TableTarget::REPLACE, TableTarget::APPEND], message: 'Create, replace, or append.')]
        public string $mode = TableTarget::CREATE,
        public ?string $key = null,
        #[Assert\Choice(ListPages::WHICH, message: 'Take those acted on, those left, or all.')]
        public string $which = 'acted',
        #[Assert\Valid, Assert\Count(max: 2000)]
        public array $columns = [],
    ) {
    }
}
