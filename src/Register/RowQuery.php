<?php

declare(strict_types=1);

namespace App\Register;

use App\Http\Problem;
use Dokimos\Core\Select\Conditions;
use Dokimos\Core\Select\UnclearCondition;
use Symfony\Component\Validator\Constraints as Assert;

/** Which records are wanted, in which order, with which columns. */
final readonly class RowQuery
{
    public function __construct(
        public int $offset = 0,
        public int $limit = 50,
        public ?string $sort = null,
        public bool $descending = false,
        /** Conditions as JSON: lists of column, relation and values */
        #[Assert\Length(max: 8000)]
        public string $where = '',
        /** Whether one condition is enough */
        public bool $any = false,
        /** Text to be found in any column */
        #[Assert\Length(max: 200)]
        public string $search = '',
        /** Record numbers, with commas between them; at most 1,000 */
        #[Assert\Length(max: 12000)]
        public string $only = '',
        /** Names as a JSON list; all columns when left out */
        #[Assert\Length(max: 60000)]
        public string $columns = '',
    ) {
    }

    public function conditions(): Conditions
    {
        try {
            return Conditions::fromArray(self::list($this->where, 'where'), $this->any);
        } catch (UnclearCondition $e) {
            throw Problem::invalid($e->getMessage(), 'where');
        }
    }

    /** @return ?list<string> */
    public function columnNames(): ?array
    {
        return '' === $this->columns ? null : array_map(
            static fn (mixed $name) => \is_string($name) ? $name : throw Problem::invalid('Columns are a JSON list of names.', 'columns'),
            self::list($this->columns, 'columns'),
        );
    }

    /** @return list<int> rows from 0; none when nothing is said */
    public function only(): array
    {
        $numbers = '' === $this->only ? [] : explode(',', $this->only);
        if (\count($numbers) > 1000 || [] !== array_filter($numbers, static fn (string $n) => 1 !== preg_match('/^[1-9]\d{0,9}$/', $n))) {
            throw Problem::invalid('Say at most 1,000 record numbers, with commas between them.', 'only');
        }

        return array_map(static fn (string $n) => (int) $n - 1, $numbers);
    }

    public function narrows(): bool
    {
        return '' !== $this->where.$this->search.$this->only;
    }

    /** @return list<mixed> */
    private static function list(string $json, string $field): array
    {
        $given = '' === $json ? [] : json_decode($json, true);

        return \is_array($given) && array_is_list($given) ? $given : throw Problem::invalid('That is not a JSON list.', $field);
    }
}
