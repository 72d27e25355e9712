<?php

declare(strict_types=1);

namespace Dokimos\Core\Dossier;

/** A whole dossier as one HTML file with nothing outside it; a PDF is made from the same. */
final readonly class Document
{
    /**
     * @param list<Section>                                                                      $sections
     * @param list<array{section: string, by: string, text: string, quote: string, print: bool}> $comments quote: the words they are on,
     *                                                                                                     which
     *                                                                                                     are marked; empty = the section
     */
    public function __construct(public string $title, public string $under, public array $sections, public array $comments = [])
    {
    }

    /**
     * The sections alone, to be shown within another page.
     *
     * @param int  $before sections that stand before them
     * @param bool $links  whether strong words open the screens they come from
     */
    public function inner(int $before = 0, bool $links = false): string
    {
        $out = '';
        foreach ($this->sections as $i => $section) {
            $out .= $this->section($section, $before + $i, $links);
        }

        return $out;
    }

    public function html(): string
    {
        $body = $this->inner();

        return '<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>'.self::plain($this->title).'</title><style>'.self::STYLE
            .'</style></head><body><header><p class="under">'.self::plain($this->under).'</p><h1>'.self::plain($this->title).'</h1></header>'
            .$body.'</body></html>';
    }

    private function section(Section $section, int $i, bool $links): string
    {
        $out = \sprintf(
            '<section id="%s"%s><p class="name">%d %s</p><h2>%s</h2>',
            $section->key,
            0 === $i ? '' : ' class="next"',
            $i + 1,
            self::plain($section->name),
            self::plain($section->title),
        );
        $own = array_values(array_filter($this->comments, static fn (array $c): bool => $c['section'] === $section->key));
        $quotes = array_values(array_filter(array_column($own, 'quote'), static fn (string $q): bool => '' !== $q));
        foreach ($section->blocks as $block) {
            $out .= self::block($block, $quotes, $links);
        }
        foreach ($own as $comment) {
            if ($comment['print']) {
                $out .= '<p class="comment"><strong>'.self::plain($comment['by']).':</strong> '
                    .('' === $comment['quote'] ? '' : '“'.self::plain($comment['quote']).'” ').self::plain($comment['text']).'</p>';
            }
        }

        return $out.'</section>';
    }

    /** @param list<string> $quotes words that are commented on */
    private static function block(Block $block, array $quotes, bool $links): string
    {
        if ('text' === $block->kind) {
            return '<p>'.self::marked($block->text, $quotes, $links ? $block->opens : '').'</p>';
        }
        if ('picture' === $block->kind) {
            return '<p class="picture"><img alt="'.self::plain($block->text).'" src="data:image/svg+xml;base64,'.base64_encode($block->svg).'"></p>'
                .'<p class="says">'.self::plain($block->text).'</p>';
        }

        return '<table><caption>'.self::marked($block->text).'</caption><thead>'.self::line($block->head, 'th').'</thead><tbody>'
            .implode('', array_map(static fn (array $row): string => self::line($row, 'td'), $block->rows)).'</tbody></table>';
    }

    /** @param list<string> $cells */
    private static function line(array $cells, string $tag): string
    {
        $out = '';
        foreach ($cells as $i => $cell) {
            $out .= "<$tag".(self::isNumber($cell) && $i > 0 ? ' class="n"' : '').'>'.self::marked($cell)."</$tag>";
        }

        return '<tr>'.$out.'</tr>';
    }

    private static function isNumber(string $cell): bool
    {
        return 1 === preg_match('/^[−+-]?[\d.,]+(%| ±.*| \(.*)?$/u', $cell);
    }

    private static function plain(string $text): string
    {
        return htmlspecialchars($text, \ENT_QUOTES | \ENT_SUBSTITUTE | \ENT_HTML5, 'UTF-8');
    }

    /**
     * Text between two asterisks is strong, and opens a screen where one is named; words that are commented on are marked, wherever strong
     * ones begin and end among them.
     *
     * @param list<string> $quotes
     */
    private static function marked(string $text, array $quotes = [], string $opens = ''): string
    {
        $parts = preg_split('/\*([^*\n]+)\*/', $text, -1, \PREG_SPLIT_DELIM_CAPTURE) ?: [];
        $whole = implode('', $parts);
        $from = $to = -1;
        foreach ($quotes as $quote) {
            $at = strpos($whole, $quote);
            if (false !== $at) {
                [$from, $to] = [$at, $at + \strlen($quote)];
                break;
            }
        }
        $out = '';
        $at = 0;
        foreach ($parts as $i => $part) {
            $cuts = [max(0, min(\strlen($part), $from - $at)), max(0, min(\strlen($part), $to - $at))];
            $said = self::plain(substr($part, 0, $cuts[0]));
            if ($cuts[1] > $cuts[0]) {
                $said .= '<mark>'.self::plain(substr($part, $cuts[0], $cuts[1] - $cuts[0])).'</mark>';
            }
            $said .= self::plain(substr($part, max($cuts)));
            if (1 === $i % 2) {
                $said = '<strong>'.$said.'</strong>';
                $out .= '' === $opens ? $said : '<a href="'.self::plain($opens).'">'.$said.'</a>';
            } else {
                $out .= $said;
            }
            $at += \strlen($part);
        }

        return $out;
    }

    private const STYLE = <<<'CSS'
        @page { margin: 22mm 20mm 20mm 22mm; }
        body { font: 10.5pt/1.5 'DejaVu Serif', Georgia, serif; color: #1f2a26; max-width: 46em; margin: 0 auto; }
        h1 { font-size: 22pt; line-height: 1.2; margin: 0 0 12pt; }
        h2 { font-size: 14pt; line-height: 1.25; margin: 2pt 0 8pt; }
        .under, .name, .says, caption { font: 8.5pt/1.4 'DejaVu Sans', 'Public Sans', sans-serif; color: #5a655f; margin: 0; text-align: left; }
        .name { border-top: 1.2pt solid #1f2a26; padding-top: 6pt; margin-top: 14pt; }
        .next { page-break-before: always; }
        p { margin: 0 0 8pt; }
        strong { font-weight: bold; }
        mark { background: #f5ead6; color: inherit; }
        table { border-collapse: collapse; width: 100%; margin: 6pt 0 12pt; font: 8.5pt/1.4 'DejaVu Sans', 'Public Sans', sans-serif; }
        caption { padding-bottom: 3pt; caption-side: top; }
        th { text-align: left; border-bottom: 1pt solid #1f2a26; padding: 2pt 6pt 2pt 0; font-weight: normal; color: #5a655f; }
        td { border-bottom: 0.5pt solid #d9d3c4; padding: 2pt 6pt 2pt 0; vertical-align: top; }
        .n { text-align: right; }
        tr { page-break-inside: avoid; }
        .picture { margin: 6pt 0 0; }
        .picture img { width: 15cm; }
        .comment { border-left: 2pt solid #80570f; padding-left: 8pt; color: #80570f; font: 9pt/1.45 'DejaVu Sans', sans-serif; }
        CSS;
}
