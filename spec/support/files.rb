# frozen_string_literal: true

require "tempfile"
require "tmpdir"
require "zip"
require "xlsxtream"

# Files of people, as other programs write them.
module FilesOfPeople
  def file_of(bytes, ending = ".csv")
    Tempfile.create(["people", ending], binmode: true).tap do |file|
      file.write(bytes)
      file.close
    end.path
  end

  # @param rows [Array<Array>] of the first sheet
  def workbook(rows, sheet: "People")
    path = file_of("", ".xlsx")
    File.open(path, "wb") { |io| Xlsxtream::Workbook.open(io) { |book| book.write_worksheet(sheet) { |page| rows.each { |row| page << row } } } }
    path
  end

  # @param parts [Hash{String=>String}] names to contents
  def archive(parts)
    path = file_of("", ".zip")
    Zip::OutputStream.open(path) do |zip|
      parts.each do |name, content|
        zip.put_next_entry(name)
        zip.write(content)
      end
    end
    path
  end
end

RSpec.configure { |config| config.include FilesOfPeople }
