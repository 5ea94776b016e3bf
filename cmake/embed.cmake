# Writes a C++ source that holds a text file as a string_view.
# Use: cmake -DIN=file -DOUT=file.cpp -DNAME=symbol -P embed.cmake
file(READ "${IN}" text)
set(pieces "")
string(LENGTH "${text}" length)
set(at 0)
while(at LESS length)  # one raw literal may hold 64 KiB at most in portable C++
    string(SUBSTRING "${text}" ${at} 12000 piece)
    math(EXPR rest "${length} - ${at}")
    if(rest GREATER 12000)  # cut at the end of a line: never inside a character of several bytes
        string(FIND "${piece}" "\n" end REVERSE)
        if(end LESS 0)
            message(FATAL_ERROR "${IN}: a line of more than 12000 bytes; break it")
        endif()
        math(EXPR end "${end} + 1")
        string(SUBSTRING "${piece}" 0 ${end} piece)
    endif()
    string(LENGTH "${piece}" taken)
    string(APPEND pieces "R\"~~(${piece})~~\"\n")
    math(EXPR at "${at} + ${taken}")
endwhile()
file(WRITE "${OUT}" "#include \"embedded.hpp\"\nnamespace elkit::embedded {\nconst std::string_view ${NAME} =\n${pieces};\n}\n")
