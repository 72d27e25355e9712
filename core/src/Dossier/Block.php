<?php

declare(strict_types=1);

namespace Dokimos\Core\Dossier;

/** A paragraph, a table or a picture of a dossier. Text between two asterisks is strong; all else is as it stands. */
final readonly class Block
{
    /**
     * @param 'text'|'table'|'picture' $kind
     * @param list<string>             $head
     * @param list<list<string>>       $rows
     * @param string                   $svg   of a picture; what it shows stands in its text
     * @param string                   $opens the screen that it comes from: what is strong in a text opens it where it is read on a screen
     */
    private function __construct(
        public string $kind,
        public string $text,
        public array $head = [],
        public array $rows = [],
        public string $svg = '',
        public string $opens = '',
    ) {
    }

    public static function text(string $text, string $opens = ''): self
    {
        return new self('text', $text, opens: $opens);
    }

    /**
     * @param string             $caption said above it
     * @param list<string>       $head
     * @param list<list<string>> $rows
     */
    public static function table(string $caption, array $head, array $rows): self
    {
        return new self('table', $caption, $head, $rows);
    }

    /** @param string $says what it shows, for those who do not see it */
    public static function picture(string $says, string $svg): self
    {
        return new self('picture', $says, svg: $svg);
    }
}
